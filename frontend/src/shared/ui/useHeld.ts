import { useEffect, useRef, useState } from 'react';
import { useBusy } from './hands';

interface Options<T> {
  /** What Escape does while something is in the hand; it lets go of it where nothing is said. Null leaves Escape alone. */
  giveUp?: ((held: T) => void) | null;
}

/** What is in the hand: drawn when there is time, but known at once to the next event of the pointer. Escape gives it up. */
export function useHeld<T>({ giveUp }: Options<T> = {}) {
  const [shown, setShown] = useState<T | null>(null);
  const held = useRef<T | null>(null);
  const hold = (next: T | null): void => {
    held.current = next;
    setShown(next);
  };
  useBusy(shown !== null);
  const isHeld = shown !== null && giveUp !== null;
  useEffect(() => {
    if (!isHeld) return undefined;
    const press = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || held.current === null) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (giveUp) giveUp(held.current);
      else hold(null);
    };
    window.addEventListener('keydown', press, { capture: true });
    return () => window.removeEventListener('keydown', press, { capture: true });
  });
  return { shown, held: () => held.current, hold };
}
