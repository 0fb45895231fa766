/* What pulling bars makes of the lanes behind them. */
import type { Transition, TransitionReading } from '../../api/contract';
import { edits, lasting, make, transitionNamed, useBench } from '../workbench';
import { laneOfBar, type Bar } from './model';
import type { Place, Places } from './places';
import { known } from '../../shared/known';

interface Bench {
  document: Parameters<typeof edits.setLanes>[0];
  readings: Record<string, TransitionReading>;
}

/** One edit that puts bars where they are wanted; each lane once, even if several of its bars are. `alone`: those
 * properties and not their whole layers. */
export async function moveBars(
  { document: piece, readings }: Bench,
  bars: readonly Bar[],
  places: Places,
  alone = false,
): Promise<edits.Edit> {
  const wishes = new Map<string, Parameters<typeof edits.setLanes>[1][number]>();
  for (const bar of bars) {
    const place = places.get(bar.key);
    const transition = transitionNamed(piece, bar.transition);
    const { layer, property: name, ofCopy } = laneOfBar(bar);
    const own = edits.laneOf(piece.transitions ?? [], bar.transition, layer, name);
    const property = ofCopy || alone || own?.property ? name : null;
    const key = `${bar.transition} ${layer} ${property}`;
    if (!place || wishes.has(key)) continue;
    const values = await laneAt(transition, bar, place, known(readings[bar.transition]));
    wishes.set(key, { transition: bar.transition, layer, property, values });
  }
  return edits.setLanes(piece, [...wishes.values()], `Time of ${bars.length === 1 ? 'a bar' : `${bars.length} bars`}`);
}

/** Puts bars where they are wanted; rejects with why that cannot be. */
export const attemptTimes = async (bars: readonly Bar[], places: Places): Promise<void> =>
  make(await moveBars(useBench.getState(), bars, places));

/** What of a lane has to be another for its bar to stand there: what comes from a stagger or from the bar that it counts
 * from stays. */
async function laneAt(
  transition: Transition,
  bar: Bar,
  [start, end]: Place,
  reading: TransitionReading,
): Promise<edits.LaneValues> {
  const { layer, property, ofCopy } = laneOfBar(bar);
  const lane = edits.laneOf([transition], transition.id, layer, property);
  const later = start - bar.start_ms;
  const delay = (lane?.delay_ms ?? 0) + (lane?.anchor?.edge === 'before-end' ? -later : later);
  const delay_ms = Math.max(Math.round(delay), 0);
  const [length, before] = [Math.max(Math.round(end - start), 1), bar.end_ms - bar.start_ms];
  // How long its own way takes is said by the original.
  if (ofCopy || Math.abs(length - before) < 0.5) return { delay_ms };
  const own = lane?.timing ? reading.lanes[known(transition.lanes).indexOf(lane)] : reading;
  return { delay_ms, timing: await lasting(lane?.timing ?? transition.timing, length, own?.spring?.overshoot ?? 0) };
}
