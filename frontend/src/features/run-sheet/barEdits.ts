/* What pulling bars makes of the lanes behind them. */
import type { Transition, TransitionReading } from '../../api/contract';
import { edits, lasting, transitionNamed } from '../workbench';
import { laneOfBar, type Bar } from './model';
import { known } from '../../shared/known';

/** Which part of a bar is pulled, and how far; `alone`: that property and not its whole layer. */
export interface Pull {
  part: 'move' | 'start' | 'end';
  by_ms: number;
  alone: boolean;
}

interface Bench {
  document: Parameters<typeof edits.setLanes>[0];
  readings: Record<string, TransitionReading>;
}

/** One edit for all bars; each lane once, even if several of its bars are pulled. */
export async function moveBars(
  { document: piece, readings }: Bench,
  bars: readonly Bar[],
  pull: Pull,
): Promise<edits.Edit> {
  const wishes = new Map<string, Parameters<typeof edits.setLanes>[1][number]>();
  for (const bar of bars) {
    const transition = transitionNamed(piece, bar.transition);
    const { layer, property: name, ofCopy } = laneOfBar(bar);
    const own = edits.laneOf(piece.transitions ?? [], bar.transition, layer, name);
    const property = ofCopy || pull.alone || own?.property ? name : null;
    const key = `${bar.transition} ${layer} ${property}`;
    if (!wishes.has(key))
      wishes.set(key, {
        transition: bar.transition,
        layer,
        property,
        // How long its own way takes is said by the original.
        values: await lanePulled(
          transition,
          bar,
          ofCopy ? { ...pull, part: 'move' } : pull,
          known(readings[bar.transition]),
        ),
      });
  }
  return edits.setLanes(
    piece,
    [...wishes.values()],
    `${pull.part === 'move' ? 'Start' : 'Length'} of ${bars.length === 1 ? 'a bar' : `${bars.length} bars`}`,
  );
}

async function lanePulled(
  transition: Transition,
  bar: Bar,
  pull: Pull,
  reading: TransitionReading,
): Promise<edits.LaneValues> {
  const { layer, property } = laneOfBar(bar);
  const lane = edits.laneOf([transition], transition.id, layer, property);
  // What comes from a stagger or from the bar that it counts from stays; its own delay is moved.
  const delay = lane?.delay_ms ?? 0;
  const delay_ms = Math.max(
    Math.round(pull.part === 'end' ? delay : delay + (lane?.anchor?.edge === 'before-end' ? -pull.by_ms : pull.by_ms)),
    0,
  );
  if (pull.part === 'move') return { delay_ms };
  const length = Math.max(Math.round(bar.end_ms - bar.start_ms + (pull.part === 'end' ? pull.by_ms : -pull.by_ms)), 1);
  const own = lane?.timing ? reading.lanes[known(transition.lanes).indexOf(lane)] : reading;
  return { delay_ms, timing: await lasting(lane?.timing ?? transition.timing, length, own?.spring?.overshoot ?? 0) };
}
