/* What the loop stage and the run sheet play: the run, or transitions one after the other, whatever sets them off. */
import { create } from 'zustand';
import type { Run } from '../../api/contract';
import { clock, useBench } from './bench';
import { waysRun } from '../player';

/** Every transition, or one of them alone. */
export type Ways = 'all' | { only: string };

interface Course {
  ways: Ways | null;
  /** What plays instead of the run. */
  run: Run | null;
}

export const useCourse = create<Course>(() => ({ ways: null, run: null }));

/** The run of these ways, as they are or as they are tried. */
export function runOf(ways: Ways | null, readings = useBench.getState().readings): Run | null {
  const { document, run } = useBench.getState();
  const all = document.transitions ?? [];
  const wanted = ways === 'all' ? all : all.filter((t) => ways && t.id === ways.only);
  return wanted.length ? waysRun(wanted, readings, run.undercurrents) : null;
}

/** Plays these ways over and over; the run again, and all of it, with null. */
export function playWays(ways: Ways | null): void {
  const run = runOf(ways);
  if (ways || useCourse.getState().ways) {
    useCourse.setState({ ways: run && ways, run });
    clock.setRun(playedRun());
    clock.seek(0);
  }
  clock.setPart(null);
}

/** What plays now. */
export const playedRun = (): Run => useCourse.getState().run ?? useBench.getState().run;

// An edit of a way is seen while it plays; another piece begins with its run.
useBench.subscribe((now, before) => {
  const { ways } = useCourse.getState();
  if (!ways) return;
  if (now.id !== before.id) return playWays(null);
  if (now.readings === before.readings && now.document === before.document) return;
  const run = runOf(ways);
  if (!run) return playWays(null);
  useCourse.setState({ run });
  clock.setRun(run);
});
