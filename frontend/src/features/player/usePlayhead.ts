import { useLayoutEffect, useRef, type KeyboardEvent } from 'react';
import { seconds } from './ring';
import type { Clock } from './clock';

/** Figures are read ten times a second at most; more often they would cost a layout of the page each frame. */
const SAID_EVERY_MS = 100;

/** Follows the clock by writing into the elements, without drawing the component anew each frame. */
export function usePlayhead(clock: Clock, place: (moment: number, dot: SVGCircleElement) => void) {
  const dot = useRef<SVGCircleElement>(null);
  const label = useRef<SVGTextElement & HTMLSpanElement>(null);
  const slider = useRef<SVGSVGElement>(null);
  useLayoutEffect(() => {
    let said = -1;
    return clock.listen((moment) => {
      place(moment, dot.current!);
      const due = Math.floor(moment / SAID_EVERY_MS);
      if (clock.playing && due === said) return;
      said = due;
      if (label.current) label.current.textContent = seconds(moment);
      slider.current!.setAttribute('aria-valuenow', moment.toFixed(0));
    });
  }, [clock, place]);
  return { dot, label, slider };
}

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 };

/** The arrow keys scrub by 10 ms, with Shift by 100. */
export function scrubByKey(event: KeyboardEvent, clock: Clock, end_ms: number): void {
  const step = STEPS[event.key];
  if (!step) return;
  event.preventDefault();
  clock.seek(Math.min(Math.max(clock.moment + step * (event.shiftKey ? 100 : 10), 0), end_ms));
}
