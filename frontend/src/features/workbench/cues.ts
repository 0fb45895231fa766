/* Cues by their names: as they are chosen, and as what is waited for. */
import type { Transition } from '../../api/contract';

export type Cue = NonNullable<Transition['cue']>;

interface Named {
  label: string;
  /** What a state waits for. */
  awaited: string;
}

export const BY_ITSELF: Readonly<Partial<Record<Cue, Named>>> = {
  hold: { label: 'after a hold', awaited: 'its hold to end' },
  appear: { label: 'when it appears', awaited: 'the piece to appear' },
  reaches: { label: 'when a copy arrives', awaited: 'a copy to arrive' },
  'media-end': { label: 'at a medium’s end', awaited: 'a medium to end' },
};
export const BY_A_PERSON: Readonly<Partial<Record<Cue, Named>>> = {
  tap: { label: 'tap', awaited: 'a tap' },
  'double-tap': { label: 'double tap', awaited: 'a double tap' },
  press: { label: 'press', awaited: 'a press' },
  release: { label: 'release', awaited: 'a release' },
  'long-press': { label: 'long press', awaited: 'a long press' },
  over: { label: 'pointer over', awaited: 'the pointer' },
  out: { label: 'pointer out', awaited: 'the pointer to leave' },
  focus: { label: 'focus', awaited: 'the focus' },
  blur: { label: 'focus leaves', awaited: 'the focus to leave' },
  key: { label: 'key', awaited: 'a key' },
  'in-view': { label: 'comes into view', awaited: 'being seen' },
  'out-of-view': { label: 'leaves the view', awaited: 'leaving the view' },
};
const ALL: Readonly<Partial<Record<string, Named>>> = { ...BY_ITSELF, ...BY_A_PERSON };

export const isByAPerson = (cue: Cue) => cue in BY_A_PERSON;
/** As it is chosen; with its key. */
export const cueLabel = (cue: string, key?: string | null) =>
  `${ALL[cue]?.label ?? cue}${key ? ` ${keyName(key)}` : ''}`;
/** What is waited for. */
export const awaited = (cue: string, key?: string | null) =>
  key ? `the key ${keyName(key)}` : (ALL[cue]?.awaited ?? cue);
export const keyName = (key: string) => (key === ' ' ? 'Space' : key);

/** A key as it is typed: one character, Space, or a name that the browser gives it. */
export const parseKey = (text: string): { value: string; fault?: never } | { value?: never; fault: string } => {
  const key = text.trim() === 'Space' ? ' ' : text.trim();
  return /^(.|[A-Z][A-Za-z0-9]{1,31})$/u.test(key)
    ? { value: key }
    : { fault: 'No key is called so. Type one character, Space, or a name such as Enter, Escape or ArrowRight.' };
};
