import { useRef, useState } from 'react';

/** What is in the hand: drawn when there is time, but known at once to the next event of the pointer. */
export function useHeld<T>() {
  const [shown, setShown] = useState<T | null>(null);
  const held = useRef<T | null>(null);
  const hold = (next: T | null): void => {
    held.current = next;
    setShown(next);
  };
  return { shown, held: () => held.current, hold };
}
