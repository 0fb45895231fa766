import { useEffect, useMemo, useState, type RefObject } from 'react';
import type { Run } from '../../api/contract';
import { stage } from '../workbench';
import { around, shifted, zoomed, type Seen } from './seen';
import type { Scale } from './Sheet';

const STEP = 1.25;

export interface SheetAxis {
  scale: Scale;
  isWhole: boolean;
  /** Closer by a factor; what is at `px` stays there, or else the middle. */
  by: (factor: number, px?: number) => void;
  /** Further on by so many px. */
  pan: (px: number) => void;
  whole: () => void;
  /** From one moment to another, with some room around it. */
  toPart: (from: number, to: number) => void;
}

/** The part of the run that the sheet shows: all of it until somebody looks closer. */
export function useAxis(run: Run, width: number): SheetAxis {
  const [asked, setSeen] = useState<Seen | null>(null);
  const total = Math.max(run.total_ms, 1);
  // What has become shorter by an edit is shown as far as it goes.
  const seen = useMemo(() => (asked ? shifted(asked, total, 0) : { from: 0, to: total }), [asked, total]);
  const axis = useMemo<SheetAxis>(() => {
    const long = seen.to - seen.from;
    const ms = (px: number) => seen.from + (px / width) * long;
    const scale = { ...seen, width, ms, x: (at: number) => ((at - seen.from) / long) * width };
    const show = (next: Seen) => setSeen(next.to - next.from >= total - 1e-6 ? null : next);
    return {
      scale,
      isWhole: asked === null,
      by: (factor, px = width / 2) => show(zoomed(seen, total, factor, ms(px))),
      pan: (px) => show(shifted(seen, total, (px / width) * long)),
      whole: () => setSeen(null),
      toPart: (from, to) => show(around(from, to, total)),
    };
  }, [asked, seen, total, width]);
  return axis;
}

/** The keys of the stage for the sheet, and the wheel: on the ruler closer and further, sideways along the run. */
export function useAxisHands(
  axis: SheetAxis,
  sheet: RefObject<HTMLElement | null>,
  toChosen: (() => void) | null,
): void {
  useEffect(
    () =>
      void Object.assign(stage, {
        toFit: axis.whole,
        toSize: axis.whole,
        by: (factor: number) => axis.by(factor > 1 ? STEP : 1 / STEP),
        toChosen: toChosen ?? (() => {}),
      }),
  );
  useEffect(() => {
    const element = sheet.current;
    const turn = (event: WheelEvent) => {
      const ruler = (event.target as Element).closest('.axis');
      const sideways = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
      if (ruler || event.ctrlKey) {
        const left = element?.querySelector('.axis')?.getBoundingClientRect().left ?? 0;
        axis.by(Math.exp(-event.deltaY / 400), event.clientX - left);
      } else if (sideways) axis.pan(sideways);
      else return;
      event.preventDefault();
    };
    element?.addEventListener('wheel', turn, { passive: false });
    return () => element?.removeEventListener('wheel', turn);
  }, [axis, sheet]);
}
