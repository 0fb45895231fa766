import { useEffect, useState, type RefObject } from 'react';
import { known } from '../../../shared/known';

/** px: the height of a row of the score, as in its style sheet. */
export const ROW_H = 25;
const BEYOND = 4;

/** The part of many rows that is in view, with some more on both sides: a long score stays as quick as a short one. */
export function useWindow(
  scroller: RefObject<HTMLElement | null>,
  count: number,
  rowHeight = ROW_H,
): { from: number; to: number } {
  const [from, setFrom] = useState(0);
  const [room, setRoom] = useState(40);
  useEffect(() => {
    const element = known(scroller.current);
    const look = () => {
      // In steps of four rows, so that not every px scrolled draws the rows anew.
      setFrom(Math.floor(element.scrollTop / rowHeight / 4) * 4);
      setRoom(Math.ceil(element.clientHeight / rowHeight) + 4);
    };
    look();
    element.addEventListener('scroll', look, { passive: true });
    const observer = new ResizeObserver(look);
    observer.observe(element);
    return () => {
      element.removeEventListener('scroll', look);
      observer.disconnect();
    };
  }, [scroller, rowHeight]);
  return { from: Math.min(Math.max(from - BEYOND, 0), count), to: Math.min(from + room + BEYOND, count) };
}
