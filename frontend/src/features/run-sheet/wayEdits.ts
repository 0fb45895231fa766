/* A whole transition stretched: all that moves in it keeps its share of the time. */
import type { Piece, Transition, TransitionReading } from '../../api/contract';
import { edits, lasting, transitionNamed } from '../workbench';

type Timing = Transition['timing'];
type Read = Pick<TransitionReading, 'own_ms' | 'spring'> | null | undefined;

/** The edit that makes it last so long, in ms. Springs keep their overshoot; rejects where one cannot last so long. */
export async function stretchedWay(
  piece: Piece,
  reading: TransitionReading,
  id: string,
  length_ms: number,
): Promise<edits.Edit> {
  const { timing, lanes = [], staggers = [] } = transitionNamed(piece, id);
  const factor = length_ms / reading.length_ms;
  const scaled = (own: Timing, read: Read) =>
    lasting(own, Math.max((read?.own_ms ?? reading.own_ms) * factor, 1), read?.spring?.overshoot ?? 0);
  const part = <T extends number | null | undefined>(ms: T) => (ms ? Math.round(ms * factor) : ms);
  const longer = await Promise.all(
    lanes.map(async (lane, i) => ({
      ...lane,
      delay_ms: part(lane.delay_ms ?? 0),
      ...(lane.timing && { timing: await scaled(lane.timing, reading.lanes[i]) }),
    })),
  );
  return edits.setTransition(piece, id, 'Length', {
    timing: await scaled(timing, reading),
    ...(lanes.length && { lanes: longer }),
    ...(staggers.length && {
      staggers: staggers.map((own) => ({ ...own, each_ms: part(own.each_ms), total_ms: part(own.total_ms) })),
    }),
  });
}
