import { useLayoutEffect, useRef, type KeyboardEvent } from 'react';
import type { Run } from '../../api/contract';
import { seconds } from './ring';
import type { Clock } from './clock';
import { known } from '../../shared/known';

/** Figures are read ten times a second at most; more often they would cost a layout of the page each frame. */
const SAID_EVERY_MS = 100;

/** Follows the clock by writing into the elements, without drawing the component anew each frame.
 *
 * The dot is an element of its own over the drawing: to move it costs no layout, as it would inside of an SVG.
 * `place` gives where it belongs, in px from where it stands. */
export function usePlayhead(clock: Clock, place: (moment: number) => readonly [number, number]) {
  const dot = useRef<HTMLElement>(null);
  const label = useRef<SVGTextElement & HTMLSpanElement>(null);
  const slider = useRef<SVGSVGElement>(null);
  useLayoutEffect(() => {
    let said = -1;
    return clock.listen((moment) => {
      const [x, y] = place(moment);
      known(dot.current).style.transform = `translate(${x.toFixed(2)}px,${y.toFixed(2)}px)`;
      const due = Math.floor(moment / SAID_EVERY_MS);
      if (clock.playing && due === said) return;
      said = due;
      if (label.current) label.current.textContent = seconds(moment);
      known(slider.current).setAttribute('aria-valuenow', moment.toFixed(0));
    });
  }, [clock, place]);
  return { dot, label, slider };
}

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 };

export interface Scrubbed {
  run: Run;
  clock: Clock;
  /** Of the piece or the take, where several are shown. */
  name?: string | undefined;
  /** Where scrubbing leads; the clock itself unless another one goes ahead of it. */
  seek?: (moment: number) => void;
}

/** What makes the drawing of a run a slider, for keys and for those who do not see it. */
export function sliderProps({ run, clock, name, seek }: Scrubbed & { seek: (moment: number) => void }) {
  return {
    role: 'slider',
    'aria-label': `Moment in the ${run.loop_ms === null ? 'run' : 'loop'}${name ? ` of ${name}` : ''}, ms`,
    'aria-valuemin': 0,
    'aria-valuemax': run.total_ms,
    'aria-valuenow': 0,
    tabIndex: 0,
    onKeyDown: (event: KeyboardEvent) => scrubByKey(event, clock.moment, run.total_ms, seek),
  };
}

/** The arrow keys scrub by 10 ms, with Shift by 100. */
function scrubByKey(event: KeyboardEvent, moment: number, end_ms: number, seek: (moment: number) => void): void {
  const step = STEPS[event.key];
  if (!step) return;
  event.preventDefault();
  seek(Math.min(Math.max(moment + step * (event.shiftKey ? 100 : 10), 0), end_ms));
}
