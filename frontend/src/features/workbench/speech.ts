/* What is said to those who do not see what an edit did. */
import { create } from 'zustand';

export const useSpoken = create(() => ({ text: '' }));

/** The same sentence twice is said twice: a blank more makes it another. */
export function speak(text: string): void {
  useSpoken.setState(({ text: before }) => ({ text: before === text ? `${text} ` : text }));
}
