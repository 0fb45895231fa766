/* What an undercurrent shows inside of its period, read from the tape that is played. Pure. */
import type { RunningUndercurrent, Value } from '../../../api/contract';
import { readTrack, unpack, valueOf, type Track } from '../../player';
import type { Course, Undercurrent } from '../edits';
import { known } from '../../../shared/known';

/** ms of the period that have passed where the tape begins. */
export const aheadOf = ({ phase_ms = 0, period_ms }: Undercurrent, { offset_ms = 0 }: Course): number =>
  (((phase_ms - offset_ms) % period_ms) + period_ms) % period_ms;

const trackOf = (running: RunningUndercurrent | undefined, course: Course): Track | undefined =>
  running && unpack(running.tape).find((track) => track.layer === course.layer && track.property === course.property);

/** (ms, 0–1) of a number, from the beginning of its period; none for anything else. */
export function curveOf(
  running: RunningUndercurrent | undefined,
  own: Undercurrent,
  course: Course,
): [number, number][] {
  const track = trackOf(running, course);
  if (track?.columns !== 1 || running?.period_ms !== own.period_ms) return [];
  const ahead = aheadOf(own, course);
  const all = Array.from(track.times, (t, i): [number, number] => [t + ahead, known(track.values[i])]);
  const values = all.map(([, value]) => value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const share = (value: number) => (high > low ? (value - low) / (high - low) : 0.5);
  const [first, later] = [all.filter(([t]) => t <= own.period_ms), all.filter(([t]) => t > own.period_ms)];
  const round = later.map(([t, value]): [number, number] => [t - own.period_ms, value]);
  const joined = [...round, ...first];
  const start = joined[0];
  // Where nothing moves at the ends it stands.
  const whole = start
    ? [[0, start[1]] as [number, number], ...joined, [own.period_ms, known(joined.at(-1))[1]] as [number, number]]
    : [];
  return whole.map(([t, value]) => [t, share(value)]);
}

/** What is shown at a moment of its period; null while that is not known. */
export function valueAt(
  running: RunningUndercurrent | undefined,
  own: Undercurrent,
  course: Course,
  ms: number,
): Value | null {
  const track = trackOf(running, course);
  if (!track || running?.period_ms !== own.period_ms) return null;
  const t = (ms - aheadOf(own, course) + own.period_ms) % own.period_ms;
  const row = new Float64Array(track.columns);
  readTrack(track, t, row);
  const value = valueOf(track.form, row, track.columns);
  return typeof value === 'number' ? Math.round(value * 1000) / 1000 : value;
}
