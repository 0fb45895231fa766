import { useVirtualizer } from '@tanstack/react-virtual';
import type { RefObject } from 'react';

/** px: the height of a row of the score, as in its style sheet. */
export const ROW_H = 25;
const BEYOND = 6;

/** The part of many rows that is in view, with some more on both sides: a long score stays as quick as a short one. */
export function useWindow(
  scroller: RefObject<HTMLElement | null>,
  count: number,
  rowHeight = ROW_H,
): { from: number; to: number } {
  // eslint-disable-next-line react-hooks/incompatible-library -- no compiler memoizes what it returns
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: BEYOND,
    initialRect: { width: 0, height: 40 * rowHeight },
  }).getVirtualItems();
  return { from: rows[0]?.index ?? 0, to: (rows.at(-1)?.index ?? -1) + 1 };
}
