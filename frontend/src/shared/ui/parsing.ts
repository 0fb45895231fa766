import { evaluate, round } from '../text/sums';

/** A typed number, or what to do about a text that is none. */
export function parseNumber(text: string, unit = ''): { value: number } | { fault: string } {
  const value = evaluate(text, unit);
  return value === null
    ? { fault: `“${shortened(text)}” is not a number. Type one such as 146, or a sum such as 146-42.` }
    : { value };
}

/** A text to be quoted. */
const shortened = (text: string) => (text.length > LONGEST_QUOTE ? `${text.slice(0, LONGEST_QUOTE)}…` : text);
const LONGEST_QUOTE = 40;

/** Text is taken as it is; the server knows whether it means something. */
export const parseText = (text: string) => ({ value: text.trim() });

export const nudgeBy = (unit: number) => (value: number, steps: number) => round(value + steps * unit);
