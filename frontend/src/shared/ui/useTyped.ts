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

/** The behaviour of every typed field: nothing typed is lost until it is accepted, or given up with Escape. */
export function useTyped<T>({ value, mixed = false, format, parse, commit, nudge, onEnter }: Options<T>) {
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
      if (mine === version.current) {
        setDraft(null);
        setFault(null);
      }
      return true;
    } catch (error) {
      refused.current = text;
      if (mine === version.current) setFault((error as Error).message);
      return false;
    } finally {
      if (sending.current === text) sending.current = null;
    }
  };
  const isValue = (text: string): boolean => {
    const parsed = parse(text);
    return !mixed && !('fault' in parsed) && format(parsed.value) === format(value);
  };
  const submit = async (): Promise<boolean> => {
    if (draft === null) return true;
    const parsed = parse(draft);
    if ('fault' in parsed) {
      refused.current = draft;
      setFault(parsed.fault);
      return false;
    }
    return settle(draft, parsed.value);
  };
  const reset = () => {
    version.current++;
    refused.current = null;
    setDraft(null);
    setFault(null);
  };
  // What was refused may have come true by another way, such as being made again after a conflict.
  const cameTrue = fault !== null && draft !== null && isValue(draft);
  const typed = cameTrue ? null : draft;
  const step = (steps: number) => {
    if (!nudge) return;
    const from = draft === null ? { value } : parse(draft);
    if ('fault' in from) return setFault(from.fault);
    const next = nudge(from.value, steps);
    void stepped(() => settle(format(next), next));
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') {
      event.preventDefault();
      const back = event.shiftKey;
      void submit().then((accepted) => accepted && onEnter?.(back));
    } else if (event.key === 'Escape') {
      reset();
    } else if (
      (event.ctrlKey || event.metaKey) &&
      event.key.toLowerCase() === 'z' &&
      draft !== null &&
      sending.current === null
    ) {
      // What is half typed is taken back before anything that was stored.
      event.preventDefault();
      reset();
    } else if (nudge && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      event.preventDefault();
      step((event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1));
    } else {
      return;
    }
    event.stopPropagation();
  };

  return {
    fault: cameTrue ? null : fault,
    step,
    input: {
      value: typed ?? (mixed ? '' : format(value)),
      placeholder: mixed ? 'differs' : undefined,
      'aria-invalid': fault !== null && !cameTrue,
      spellCheck: false,
      autoComplete: 'off',
      onChange: (event: { target: HTMLInputElement }) => setDraft(event.target.value),
      onFocus: (event: { target: HTMLInputElement }) => event.target.select(),
      onBlur: () => {
        if (draft !== refused.current) void submit();
      },
      onKeyDown,
    },
  };
}
