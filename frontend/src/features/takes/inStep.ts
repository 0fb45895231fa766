/* Several runs played in step with one clock. */
import type { Run } from '../../api/contract';
import { Clock } from '../player';

/** At the same moment of each, or at the same share of their loops. */
export type Step = 'moment' | 'phase';

/** Where another run stands while this one has played for `t` ms and is at `moment`. */
export function inStep(t: number, moment: number, run: Run, other: Run, step: Step): number {
  if (step === 'moment') return t;
  const [from, length] = partOf(run);
  const [otherFrom, otherLength] = partOf(other);
  return moment < from
    ? (moment / Math.max(from, 1)) * otherFrom
    : otherFrom + ((moment - from) / length) * otherLength;
}

/** The loop, or the whole of what ends. */
const partOf = (run: Run): [from: number, length: number] =>
  run.loop_ms === null ? [0, Math.max(run.total_ms, 1)] : [run.lead_in_ms, run.loop_ms];

/** A clock for a run that goes where the leading one goes; the second function lets it go again. */
export function follow(leader: Clock, run: () => Run, follower: Clock, own: Run, step: Step): () => void {
  follower.setPlaying(false);
  follower.setRun(own);
  return leader.listen((moment) => {
    follower.look = leader.look;
    follower.seek(inStep(leader.t, moment, run(), own, step));
  });
}
