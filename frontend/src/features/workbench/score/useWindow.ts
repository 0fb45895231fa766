import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, type RefObject } from 'react';

/** px: the height of a row of the score, as in its style sheet. */
export const ROW_H = 25;
const BEYOND = 6;

/** The part of many rows that is in view, with some more on both sides: a long score stays as quick as a short one. */
export function useWindow(scroller: RefObject<HTMLElement | null>, count: number, rowHeight = ROW_H): Window {
  // eslint-disable-next-line react-hooks/incompatible-library -- no compiler memoizes what it returns
  const virtualizer = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: BEYOND,
    initialRect: { width: 0, height: 40 * rowHeight },
  });
  return windowOf(virtualizer);
}

/** Columns beyond those in view, so that Tab finds the next one. */
export const COLUMNS_BEYOND = 4;

/** The same of columns, that begin beside the heads of the rows. */
export function useColumnWindow(
  scroller: RefObject<HTMLElement | null>,
  widths: readonly number[],
  begin: number,
): Window {
  // eslint-disable-next-line react-hooks/incompatible-library -- no compiler memoizes what it returns
  const virtualizer = useVirtualizer({
    horizontal: true,
    count: widths.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => widths[index] ?? 0,
    paddingStart: begin,
    overscan: COLUMNS_BEYOND,
    initialRect: { width: FIRST_WIDTH, height: 0 },
  });
  useEffect(() => virtualizer.measure(), [virtualizer, widths]);
  return windowOf(virtualizer);
}

/** px: until the window is measured. */
const FIRST_WIDTH = 1400;

export interface Window {
  from: number;
  to: number;
  /** It is being scrolled. */
  passing: boolean;
}

function windowOf(virtualizer: { getVirtualItems: () => readonly { index: number }[]; isScrolling: boolean }): Window {
  const items = virtualizer.getVirtualItems();
  return { from: items[0]?.index ?? 0, to: (items.at(-1)?.index ?? -1) + 1, passing: virtualizer.isScrolling };
}
