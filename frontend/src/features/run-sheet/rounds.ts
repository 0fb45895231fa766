/* What goes round on its own, along the axis of the run. Pure. */
import type { Run } from '../../api/contract';
import { aheadOf, type Course, type Undercurrent } from '../workbench';

/** One period, ms of the run; cut where it does not run. */
export interface Turn {
  start_ms: number;
  end_ms: number;
}

/** More than these would be closer than can be seen. */
const MOST_TURNS = 400;

/** Where it runs: in its states, and on the ways between them. */
export function runningIn({ states }: Undercurrent, run: Pick<Run, 'segments' | 'total_ms'>): Turn[] {
  if (!states) return [{ start_ms: 0, end_ms: run.total_ms }];
  const named: readonly string[] = states;
  const found: Turn[] = [];
  for (const { from, to, start_ms, end_ms } of run.segments) {
    if (!named.includes(from) || !named.includes(to)) continue;
    const before = found.at(-1);
    if (before?.end_ms === start_ms) before.end_ms = end_ms;
    else found.push({ start_ms, end_ms });
  }
  return found;
}

/** When its keys are passed, but those at which a period begins. */
export function keysOf(own: Undercurrent, course: Course, turns: readonly Turn[]): number[] {
  const first = -aheadOf(own, course);
  const within = course.keys.map((key) => key.at_ms).filter((at) => at > 0 && at < own.period_ms);
  return turns.flatMap(({ start_ms, end_ms }) => {
    const begun = first + Math.floor((start_ms - first) / own.period_ms) * own.period_ms;
    return within.map((at) => begun + at).filter((ms) => ms >= start_ms && ms < end_ms);
  });
}

/** Its periods along the run, one after the other. */
export function turnsOf(own: Undercurrent, course: Course, run: Pick<Run, 'segments' | 'total_ms'>): Turn[] {
  const { period_ms } = own;
  const first = -aheadOf(own, course);
  const count = Math.min(Math.ceil((run.total_ms - first) / period_ms), MOST_TURNS);
  const turns = Array.from({ length: count }, (_, n) => first + n * period_ms);
  return runningIn(own, run).flatMap((span) =>
    turns
      .map((start) => ({
        start_ms: Math.max(start, span.start_ms),
        end_ms: Math.min(start + period_ms, span.end_ms),
      }))
      .filter(({ start_ms, end_ms }) => end_ms > start_ms),
  );
}
