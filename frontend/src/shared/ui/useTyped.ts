import { useRef, useState, type KeyboardEvent } from 'react';
import { farBy } from './far';
import { stepped, useBusy } from './hands';

interface Options<T> {
  value: T;
  /** Several things have different values: `value` is that of the last of them. */
  mixed?: boolean;
  format: (value: T) => string;
  /** The value, or a sentence that says what is wrong and what to do. */
  parse: (text: string) => { value: T } | { fault: string };
  /** Rejects with an Error whose message is shown beside the field. */
  commit: (value: T) => Promise<void>;
  /** One step up or down, for the arrow keys. */
  nudge?: ((value: T, steps: number) => T) | undefined;
  /** The same where several things go each from its own value. */
  nudgeEach?: ((steps: number) => Promise<void>) | undefined;
  /** What an empty text means, where it has a meaning. */
  clear?: (() => Promise<void>) | undefined;
  onEnter?: (back: boolean) => void;
}

type Parsed<T> = { value: T } | { fault: string };

/** The behaviour of every typed field: nothing typed is lost until it is accepted, or given up with Escape. */
export function useTyped<T>(options: Options<T>) {
  const { value, mixed = false, format, parse, nudge, nudgeEach, onEnter } = options;
  const field = useDraft(options);
  const step = (steps: number) => {
    if (nudgeEach) return stepEach(steps);
    if (!nudge) return;
    const from: Parsed<T> = field.draft === null ? { value } : parse(field.draft);
    if ('fault' in from) return field.setFault(from.fault);
    const next = nudge(from.value, steps);
    void stepped(() => field.settle(format(next), next));
  };
  const stepEach = (steps: number) =>
    void field.submit().then((accepted) => {
      if (!accepted || !nudgeEach) return;
      void stepped(() => nudgeEach(steps)).catch((error: unknown) => field.setFault((error as Error).message));
    });
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    const act = {
      enter: () => void field.submit().then((accepted) => accepted && onEnter?.(event.shiftKey)),
      giveUp: field.reset,
      // What is half typed is taken back before anything that was stored.
      takeBack: field.draft !== null && !field.isSending() ? field.reset : null,
      nudge: nudge || nudgeEach ? () => step(stepsOf(event)) : null,
      nothing: null,
    }[meaningOf(event)];
    if (!act) return;
    // Escape may mean more to others, such as the colour panel around the field.
    if (event.key !== 'Escape') event.preventDefault();
    act();
    event.stopPropagation();
  };
  const { typed, fault } = field;
  return {
    fault,
    step,
    input: {
      value: typed ?? (mixed ? '' : format(value)),
      placeholder: mixed ? 'differs' : undefined,
      'aria-invalid': fault !== null,
      spellCheck: false,
      autoComplete: 'off',
      onChange: (event: { target: HTMLInputElement }) => field.setDraft(event.target.value),
      onFocus: (event: { target: HTMLInputElement }) => event.target.select(),
      onBlur: field.leave,
      onKeyDown,
    },
  };
}

const DONE = Promise.resolve();
const nothingWrong = () => null;

/** What is typed and not accepted yet, and why not. */
function useDraft<T>({ value, mixed = false, format, parse, commit, clear }: Options<T>) {
  const [draft, setDraft] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  useBusy(draft !== null);
  const version = useRef(0);
  // A text that was refused is not sent again until it is changed or Enter insists on it.
  const refused = useRef<string | null>(null);
  // What is on its way already is not sent again, as when the field is left just after Enter.
  const sending = useRef<string | null>(null);
  const isNew = (next: T) => mixed || format(next) !== format(value);
  const settle = (text: string, next: T) => send(text, () => (isNew(next) ? commit(next) : DONE));
  const send = async (text: string, act: () => Promise<void>) => {
    if (sending.current === text) return true;
    sending.current = text;
    const mine = ++version.current;
    setDraft(text);
    const wrong = await act().then(nothingWrong, (error: Error) => error.message);
    if (sending.current === text) sending.current = null;
    if (wrong !== null) refused.current = text;
    if (mine !== version.current) return wrong === null;
    if (wrong === null) forget();
    else setFault(wrong);
    return wrong === null;
  };
  const submit = async (): Promise<boolean> => {
    if (draft === null) return true;
    if (clear && draft.trim() === '') return send(draft, clear);
    const parsed = parse(draft);
    if ('value' in parsed) return settle(draft, parsed.value);
    refused.current = draft;
    setFault(parsed.fault);
    return false;
  };
  const forget = () => {
    setDraft(null);
    setFault(null);
  };
  const reset = () => {
    version.current++;
    refused.current = null;
    forget();
  };
  // What was refused may have come true by another way, such as being made again after a conflict.
  const isSaid = (parsed: Parsed<T>) => 'value' in parsed && !isNew(parsed.value);
  const cameTrue = fault !== null && draft !== null && isSaid(parse(draft));
  return {
    draft,
    typed: cameTrue ? null : draft,
    fault: cameTrue ? null : fault,
    setDraft,
    setFault,
    settle,
    submit,
    reset,
    leave: () => void (draft !== refused.current && submit()),
    isSending: () => sending.current !== null,
  };
}

type Meaning = 'enter' | 'giveUp' | 'takeBack' | 'nudge' | 'nothing';

function meaningOf({ key, ctrlKey, metaKey }: KeyboardEvent): Meaning {
  if (key === 'Enter') return 'enter';
  if (key === 'Escape') return 'giveUp';
  if ((ctrlKey || metaKey) && key.toLowerCase() === 'z') return 'takeBack';
  return key === 'ArrowUp' || key === 'ArrowDown' ? 'nudge' : 'nothing';
}

const stepsOf = (event: KeyboardEvent) => (event.key === 'ArrowUp' ? 1 : -1) * farBy(event);
