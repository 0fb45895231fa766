/* What lives by itself, along the axis of the run around it. Pure. */
import type { Run, RunningVoice } from '../../api/contract';

/** A way that a free copy goes, ms of the run around it. */
export interface Stretch {
  start_ms: number;
  end_ms: number;
  from: string;
  to: string;
}

/** More rounds than these would be closer than can be seen. */
const MOST_ROUNDS = 400;

/** Each free copy, and those in it, with when it begins on the axis of this run. */
export function voicesOf(run: Pick<Run, 'voices'>, begins_ms = 0): RunningVoice[] {
  return run.voices.flatMap((voice) => {
    const here = { ...voice, begins_ms: begins_ms + voice.begins_ms };
    return [here, ...voicesOf(voice.run, here.begins_ms)];
  });
}

/** The ways that a copy goes until `total_ms`: its lead-in, and its loop as often as it comes. */
export function stretchesOf({ begins_ms, run }: Pick<RunningVoice, 'begins_ms' | 'run'>, total_ms: number): Stretch[] {
  const { loop_ms, lead_in_ms, plays } = run;
  const rounds = loop_ms ? Math.ceil((total_ms - begins_ms - lead_in_ms) / loop_ms) : 1;
  const count = Math.min(Math.max(rounds, 1), plays ?? MOST_ROUNDS, MOST_ROUNDS);
  return Array.from({ length: count }, (_, round) =>
    run.segments
      .filter(({ kind, start_ms }) => kind === 'travel' && (round === 0 || start_ms >= lead_in_ms))
      .map(({ start_ms, end_ms, from, to }) => {
        const later = begins_ms + round * (loop_ms ?? 0);
        return { start_ms: start_ms + later, end_ms: Math.min(end_ms + later, total_ms), from, to };
      }),
  )
    .flat()
    .filter(({ start_ms }) => start_ms < total_ms);
}
