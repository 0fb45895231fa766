/* The tape: looked up, and joined by straight lines. Nothing here knows curves. */
import type { Form, PackedTape, TransitionReading } from '../../api/contract';
import { known } from '../../shared/known';

export interface Track {
  layer: string;
  property: string;
  columns: number;
  times: Float32Array;
  values: Float32Array;
  /** What rows hold that are neither numbers nor colours. */
  form: Form | null;
}

/** The tracks of what a transition moves, in ms from its start; `fade` is the share of its new look in a cross-fade. */
export interface Leg {
  tracks: readonly Track[];
  fade: Track | null;
}

/** By the leg of a run: a transition, or one that begins in mid-motion. */
export type Tape = ReadonlyMap<string, Leg>;

type Changed = Record<string, Pick<TransitionReading, 'moves' | 'fade'> & { tape: PackedTape }>;

const keyOf = (layer: string, property: string) => `${layer}/${property}`;
const NOTHING: Leg = { tracks: [], fade: null };

/** The tape after an answer that holds only the tracks that changed, for the legs that there are. */
export function updateTape(before: Tape, changed: Changed, ids: readonly string[]): Tape {
  if (!Object.keys(changed).length && ids.length === before.size) return before;
  return new Map(
    ids.map((id) => [id, changed[id] ? merged(before.get(id) ?? NOTHING, changed[id]) : (before.get(id) ?? NOTHING)]),
  );
}

function merged(before: Leg, { tape, moves, fade }: Changed[string]): Leg {
  const tracks = new Map(
    [...before.tracks, ...unpack(tape)].map((track) => [keyOf(track.layer, track.property), track]),
  );
  return {
    tracks: moves.flatMap(([layer, property]) => tracks.get(keyOf(layer, property)) ?? []),
    fade: fade && fadeTrack(fade),
  };
}

const fadeTrack = (knots: readonly [number, number][]): Track => ({
  layer: '',
  property: 'fade',
  columns: 1,
  form: null,
  times: Float32Array.from(knots, ([t]) => t),
  values: Float32Array.from(knots, ([, share]) => share),
});

export function unpack(packed: PackedTape): Track[] {
  const bytes = Uint8Array.from(atob(packed.data), (c) => c.charCodeAt(0));
  const numbers = new Float32Array(bytes.buffer);
  let at = 0;
  return packed.tracks.map(([layer, property, knots, columns, form]) => {
    const times = numbers.subarray(at, at + knots);
    const values = numbers.subarray(at + knots, at + knots * (1 + columns));
    at += knots * (1 + columns);
    return { layer, property, columns, times, values, form };
  });
}

/** The knot at or before `t`; of several at one time the last, since that is what a cut shows. */
export function knotAt(times: Float32Array, t: number): number {
  let low = 0;
  let high = times.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (known(times[middle]) <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Writes what the track shows at `t` ms into `out`. */
export function readTrack(track: Track, t: number, out: Float64Array): void {
  const { times, values, columns } = track;
  const knot = knotAt(times, t);
  const next = Math.min(knot + 1, times.length - 1);
  const span = known(times[next]) - known(times[knot]);
  const share = span > 0 ? Math.min(Math.max((t - known(times[knot])) / span, 0), 1) : 0;
  for (let c = 0; c < columns; c++) {
    const from = known(values[knot * columns + c]);
    out[c] = from + share * (known(values[next * columns + c]) - from);
  }
}

/** The knots (ms, value) of one number inside a leg; none where it does not move. */
export function knotsOf(tape: Tape, leg: string, layer: string, property: string): [number, number][] {
  const track = tape.get(leg)?.tracks.find((t) => t.layer === layer && t.property === property);
  if (!track || track.columns !== 1) return [];
  return Array.from(track.times, (t, i): [number, number] => [t, known(track.values[i])]);
}
