import { useLayoutEffect, useRef, type KeyboardEvent } from 'react';
import type { Run } from '../../api/answers';
import { seconds } from './ring';
import type { Clock } from './clock';

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
      dot.current!.style.transform = `translate(${x.toFixed(2)}px,${y.toFixed(2)}px)`;
      const due = Math.floor(moment / SAID_EVERY_MS);
      if (clock.playing && due === said) return;
      said = due;
      if (label.current) label.current.textContent = seconds(moment);
      if (slider.current!.ariaValueMax) slider.current!.setAttribute('aria-valuenow', moment.toFixed(0));
    });
  }, [clock, place]);
  return { dot, label, slider };
}

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 };

/** What makes the drawing of a run a slider for keys and for those who do not see it; a small one is a picture. */
export function sliderProps(run: Run, clock: Clock, large: boolean) {
  return {
    role: large ? 'slider' : 'img',
    'aria-label': run.loop_ms === null ? 'Moment in the run, ms' : 'Moment in the loop, ms',
    // A picture has no value.
    ...(large && { 'aria-valuemin': 0, 'aria-valuemax': run.total_ms, 'aria-valuenow': 0 }),
    tabIndex: large ? 0 : undefined,
    onKeyDown: (event: KeyboardEvent) => scrubByKey(event, clock, run.total_ms),
  };
}

/** The arrow keys scrub by 10 ms, with Shift by 100. */
function scrubByKey(event: KeyboardEvent, clock: Clock, end_ms: number): void {
  const step = STEPS[event.key];
  if (!step) return;
  event.preventDefault();
  clock.seek(Math.min(Math.max(clock.moment + step * (event.shiftKey ? 100 : 10), 0), end_ms));
}
