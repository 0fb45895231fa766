/* An edit on trial: the loop plays as it would be, and nothing is stored until it is taken. */
import { create } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { api } from '../../api/client';
import { updateTape } from '../player';
import { attempt, clock, useBench, type Bench } from './bench';
import { playedRun, runOf, useCourse } from './course';
import type { Edit } from './edits';

/** What is played and drawn of a piece. */
export type Played = Pick<Bench, 'poses' | 'run' | 'seam' | 'readings' | 'tape'>;

interface Trial extends Played {
  edit: Edit;
}

export const useTrial = create<{ trial: Trial | null }>(() => ({ trial: null }));
const { setState: set, getState: get } = useTrial;

/** Rejects with the fault where it cannot be had. */
export async function tryOut(edit: Edit): Promise<void> {
  const { id, revision } = useBench.getState();
  const { transitions, ...computed } = await api.trial(id, edit.patch);
  const now = useBench.getState();
  // What was asked for holds for the revision that it was asked of.
  if (now.id !== id || now.revision !== revision) return;
  const run = runOf(useCourse.getState().ways, transitions) ?? computed.run;
  set({
    trial: {
      ...{ ...computed, run, edit },
      readings: transitions,
      tape: updateTape(new Map(), transitions, Object.keys(transitions)),
    },
  });
  clock.setRun(run);
}

/** Back to how it stands. */
export function leaveTrial(): void {
  if (!get().trial) return;
  set({ trial: null });
  clock.setRun(playedRun());
}

export async function takeTrial(): Promise<void> {
  const { trial } = get();
  if (trial) await attempt(trial.edit);
}

// Any edit ends a trial, its own among them.
useBench.subscribe((now, before) => {
  if (now.revision !== before.revision || now.id !== before.id) leaveTrial();
});

const NOTHING = Symbol('no trial');

/** Something of the piece as it stands, or as it is tried; drawn anew only when that changes. */
export function usePlayed<T>(select: (played: Played) => T): T {
  const run = useCourse((c) => c.run);
  const stands = useBench(useShallow((bench: Bench) => select(run ? { ...bench, run, seam: null } : bench)));
  const tried = useTrial(useShallow(({ trial }): T | typeof NOTHING => (trial ? select(trial) : NOTHING)));
  return tried === NOTHING ? stands : tried;
}
