/* Whether somebody is typing or has something in the hand: what is shown must not change under them. */
import { useEffect } from 'react';
import { create } from 'zustand';

export const useHands = create(() => ({ busy: 0 }));

/** Counts as busy while it holds. */
export function useBusy(isBusy: boolean): void {
  useEffect(() => {
    if (!isBusy) return undefined;
    useHands.setState(({ busy }) => ({ busy: busy + 1 }));
    return () => useHands.setState(({ busy }) => ({ busy: busy - 1 }));
  }, [isBusy]);
}

let isStepping = false;

/** Whether what is done now is one step of several: held keys and the like, which are undone together. */
export const steps = (): boolean => isStepping;

/** Does one step of several. */
export function stepped<T>(step: () => T): T {
  isStepping = true;
  try {
    return step();
  } finally {
    isStepping = false;
  }
}
