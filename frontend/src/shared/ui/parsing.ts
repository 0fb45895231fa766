import { changeOf, evaluate, round } from '../text/sums';

/** A typed number, or what to do about a text that is none. */
export function parseNumber(text: string, unit = ''): { value: number } | { fault: string } {
  const value = evaluate(text, unit);
  return value === null
    ? { fault: `“${shortened(text)}” is not a number. Type one such as 146, or a sum such as 146-42.` }
    : { value };
}

/** A change of numbers, or what to do about a text that is none. */
export function parseChange(text: string, unit: string): { value: (from: number) => number } | { fault: string } {
  const value = changeOf(text, unit);
  return value ? { value } : { fault: 'Type a number for all of them, or a change of each such as +40, *0.5 or -10%.' };
}

/** A text to be quoted. */
const shortened = (text: string) => (text.length > LONGEST_QUOTE ? `${text.slice(0, LONGEST_QUOTE)}…` : text);
const LONGEST_QUOTE = 40;

/** Text is taken as it is; the server knows whether it means something. */
export const parseText = (text: string) => ({ value: text.trim() });

export const nudgeBy = (unit: number) => (value: number, steps: number) => round(value + steps * unit);
