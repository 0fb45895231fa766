import { useCallback, useLayoutEffect, useRef } from 'react';

/** One function for good, that does what the last one given does: what only hands it on is not drawn anew for it. */
export function useLatest<Args extends unknown[], Result>(act: (...args: Args) => Result): (...args: Args) => Result {
  const latest = useRef(act);
  useLayoutEffect(() => {
    latest.current = act;
  });
  return useCallback((...args: Args) => latest.current(...args), []);
}
