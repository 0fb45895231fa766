/* The tape: looked up, and joined by straight lines. Nothing here knows curves. */
import type { PackedTape } from '../../api/answers';

export interface Track {
  layer: string;
  property: string;
  columns: number;
  times: Float32Array;
  values: Float32Array;
}

/** By transition: the tracks of what it moves, in ms from its start. */
export type Tape = ReadonlyMap<string, readonly Track[]>;

type Changed = Record<string, { tape: PackedTape; moves: readonly (readonly [string, string, number, number])[] }>;

const keyOf = (layer: string, property: string) => `${layer}/${property}`;

/** The tape after an answer that holds only the tracks that changed, for the transitions that there are. */
export function updateTape(before: Tape, changed: Changed, ids: readonly string[]): Tape {
  if (!Object.keys(changed).length && ids.length === before.size) return before;
  return new Map(ids.map((id) => [id, changed[id] ? merged(before.get(id) ?? [], changed[id]) : (before.get(id) ?? [])]));
}

function merged(before: readonly Track[], { tape, moves }: Changed[string]): Track[] {
  const known = new Map([...before, ...unpack(tape)].map((track) => [keyOf(track.layer, track.property), track]));
  return moves.flatMap(([layer, property]) => known.get(keyOf(layer, property)) ?? []);
}

function unpack(packed: PackedTape): Track[] {
  const bytes = Uint8Array.from(atob(packed.data), (c) => c.charCodeAt(0));
  const numbers = new Float32Array(bytes.buffer);
  let at = 0;
  return packed.tracks.map(([layer, property, knots, columns]) => {
    const times = numbers.subarray(at, at + knots);
    const values = numbers.subarray(at + knots, at + knots * (1 + columns));
    at += knots * (1 + columns);
    return { layer, property, columns, times, values };
  });
}

/** The knot at or before `t`; of several at one time the last, since that is what a cut shows. */
export function knotAt(times: Float32Array, t: number): number {
  let low = 0;
  let high = times.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (times[middle]! <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Writes what the track shows at `t` ms into `out`. */
export function readTrack(track: Track, t: number, out: Float64Array): void {
  const { times, values, columns } = track;
  const knot = knotAt(times, t);
  const next = Math.min(knot + 1, times.length - 1);
  const span = times[next]! - times[knot]!;
  const share = span > 0 ? Math.min(Math.max((t - times[knot]!) / span, 0), 1) : 0;
  for (let c = 0; c < columns; c++) {
    const from = values[knot * columns + c]!;
    out[c] = from + share * (values[next * columns + c]! - from);
  }
}
