import { useRef, useState, type KeyboardEvent } from 'react';
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
  nudge?: (value: T, steps: number) => T;
  onEnter?: (back: boolean) => void;
}

type Parsed<T> = { value: T } | { fault: string };

/** The behaviour of every typed field: nothing typed is lost until it is accepted, or given up with Escape. */
export function useTyped<T>(options: Options<T>) {
  const { value, mixed = false, format, parse, nudge, onEnter } = options;
  const field = useDraft(options);
  const step = (steps: number) => {
    if (!nudge) return;
    const from: Parsed<T> = field.draft === null ? { value } : parse(field.draft);
    if ('fault' in from) return field.setFault(from.fault);
    const next = nudge(from.value, steps);
    void stepped(() => field.settle(format(next), next));
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    const act = {
      enter: () => void field.submit().then((accepted) => accepted && onEnter?.(event.shiftKey)),
      giveUp: field.reset,
      // What is half typed is taken back before anything that was stored.
      takeBack: field.draft !== null && !field.isSending() ? field.reset : null,
      nudge: nudge ? () => step(stepsOf(event)) : null,
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

/** What is typed and not accepted yet, and why not. */
function useDraft<T>({ value, mixed = false, format, parse, commit }: Options<T>) {
  const [draft, setDraft] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  useBusy(draft !== null);
  const version = useRef(0);
  // A text that was refused is not sent again until it is changed or Enter insists on it.
  const refused = useRef<string | null>(null);
  // What is on its way already is not sent again, as when the field is left just after Enter.
  const sending = useRef<string | null>(null);
  const settle = async (text: string, next: T) => {
    if (sending.current === text) return true;
    sending.current = text;
    const mine = ++version.current;
    setDraft(text);
    try {
      if (mixed || format(next) !== format(value)) await commit(next);
      if (mine === version.current) forget();
      return true;
    } catch (error) {
      refused.current = text;
      if (mine === version.current) setFault((error as Error).message);
      return false;
    } finally {
      if (sending.current === text) sending.current = null;
    }
  };
  const submit = async (): Promise<boolean> => {
    if (draft === null) return true;
    const parsed = parse(draft);
    if (!('fault' in parsed)) return settle(draft, parsed.value);
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
  const isValue = (parsed: Parsed<T>) => !mixed && !('fault' in parsed) && format(parsed.value) === format(value);
  // What was refused may have come true by another way, such as being made again after a conflict.
  const cameTrue = fault !== null && draft !== null && isValue(parse(draft));
  const shown = cameTrue ? { typed: null, fault: null } : { typed: draft, fault };
  return {
    draft,
    ...shown,
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

const stepsOf = ({ key, shiftKey, altKey }: KeyboardEvent) =>
  (key === 'ArrowUp' ? 1 : -1) * (shiftKey ? 10 : altKey ? 0.1 : 1);
