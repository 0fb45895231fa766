/* The run along an axis of time: its bars, where they snap, and the line of one row. Pure. */
import type { Pose, Run, Segment, TransitionReading } from '../../api/contract';
import type { Tape } from '../player';
import { rowOf, type RowKey } from '../workbench';
import { knotsOf } from '../player';
import { firstOf, known, lastOf } from '../../shared/known';

export interface Bar {
  /** Of the part of the run and the row; a transition that is gone through twice has two bars. */
  key: string;
  row: RowKey;
  layer: string;
  property: string;
  transition: string;
  start_ms: number;
  end_ms: number;
  /** When its transition starts, in the run. */
  base_ms: number;
}

/** Of which lane a bar is: what moves inside of a copy moves with the way of that copy. */
export const laneOfBar = ({ layer, property }: Bar): { layer: string; property: string; ofCopy: boolean } => {
  const [copy = '', ...inside] = layer.split('/');
  return inside.length ? { layer: copy, property: 'state', ofCopy: true } : { layer, property, ofCopy: false };
};

type Readings = Record<string, TransitionReading>;

/** Every move of the run, in the order of time. */
export function barsOf(run: Run, readings: Readings): Bar[] {
  return run.segments.flatMap((segment, index) => {
    const transition = known(run.transitions[index]);
    if (segment.kind !== 'travel') return [];
    return (readings[transition]?.moves ?? []).map(([layer, property, start, end]): Bar => {
      const row: RowKey = `${layer}/${property}`;
      return {
        key: `${index} ${row}`,
        row,
        layer,
        property,
        transition,
        start_ms: segment.start_ms + start,
        end_ms: segment.start_ms + end,
        base_ms: segment.start_ms,
      };
    });
  });
}

/** The transition that ends a rest; none where the run ends with it. */
export const wayAfter = (run: Run, at: number): string | null =>
  run.segments[at + 1]?.from === run.segments[at]?.from ? (run.transitions[at + 1] ?? null) : null;

/** The rows that have bars, in the order of `order`, the layers from the top. */
export function rowsOf(bars: readonly Bar[], order: readonly string[]): RowKey[] {
  const places = new Map(order.map((layer, i) => [layer, i]));
  const place = (row: RowKey) => places.get(rowOf(row)[0]) ?? 0;
  return [...new Set(bars.map((bar) => bar.row))].sort((a, b) => place(a) - place(b));
}

/** To ends, to tens of ms, or to frames of so many per second. */
export type Snap = 'ends' | '10 ms' | number;

/** The place nearest to `t` that the wish allows; ends of other bars within `reach` ms, else whole ms. */
export function snapped(t: number, snap: Snap, ends: readonly number[], reach: number): number {
  if (snap === '10 ms') return Math.round(t / 10) * 10;
  if (snap !== 'ends') return Math.round((Math.round((t * snap) / 1000) * 1000) / snap);
  const near = ends.filter((end) => Math.abs(end - t) <= reach).sort((a, b) => Math.abs(a - t) - Math.abs(b - t))[0];
  return Math.round(near ?? t);
}

/** Starts and ends of all bars but these, each once. */
export const endsBeside = (bars: readonly Bar[], keys: readonly string[]): number[] => [
  ...new Set(bars.filter((bar) => !keys.includes(bar.key)).flatMap((bar) => [bar.start_ms, bar.end_ms])),
];

export interface Line {
  points: [number, number][];
  low: number;
  high: number;
  /** per second, of greatest amount */
  fastest: number;
}

/** The number of a row through the run, from knot to knot of the tape; none for what is no number. */
export function lineOf(row: RowKey, run: Run, tape: Tape, poses: Record<string, Pose>): Line | null {
  const [layer, property] = rowOf(row);
  const first = poses[run.segments[0]?.from ?? '']?.[layer]?.[property];
  if (typeof first !== 'number') return null;
  const points: [number, number][] = [[0, first]];
  run.segments.forEach((segment, index) => {
    const rest = poses[segment.from]?.[layer]?.[property];
    const knots = segment.kind === 'travel' ? knotsOf(tape, known(run.legs[index]), layer, property) : [];
    const within = keptTo(segment.end_ms - segment.start_ms, knots.length ? knots : [[0, Number(rest)]]);
    points.push(...within.map(([t, v]): [number, number] => [segment.start_ms + t, v]));
  });
  const last = lastOf(points);
  if (last[0] < run.total_ms) points.push([run.total_ms, last[1]]);
  const values = points.map(([, v]) => v);
  const speeds = speedsOf(points).map(([, v]) => Math.abs(v));
  return { points, low: Math.min(...values), high: Math.max(...values), fastest: Math.max(...speeds, 0) };
}

/** From 0 to `length` ms: rests before and after its knots, and stops where the next motion takes over early. */
function keptTo(length: number, knots: readonly [number, number][]): [number, number][] {
  const [first, last] = [firstOf(knots), lastOf(knots)];
  const whole: [number, number][] = [
    ...(first[0] > 0 ? [[0, first[1]] as [number, number]] : []),
    ...knots,
    ...(last[0] < length ? [[length, last[1]] as [number, number]] : []),
  ];
  const after = whole.findIndex(([t]) => t > length);
  if (after < 1) return whole;
  const [[from, v0], [to, v1]] = [known(whole[after - 1]), known(whole[after])];
  return [...whole.slice(0, after), [length, v0 + ((length - from) / (to - from)) * (v1 - v0)]];
}

/** Speed in units per second: what holds from knot to knot, joined in the middle of each; rest begins and ends sharply. */
export function speedsOf(points: readonly [number, number][]): [number, number][] {
  const steps = points.slice(1).flatMap(([to, v], i) => {
    const [from, v0] = known(points[i]);
    return to > from ? [{ from, to, speed: ((v - v0) / (to - from)) * 1000 }] : [];
  });
  return steps.flatMap(({ from, to, speed }, i): [number, number][] => {
    const moves = (at: number) => Boolean(steps[at]?.speed);
    const joined = (at: number) => moves(i) && moves(at);
    return [
      ...(joined(i - 1) ? [] : [[from, speed] as [number, number]]),
      [(from + to) / 2, speed],
      ...(joined(i + 1) ? [] : [[to, speed] as [number, number]]),
    ];
  });
}

/** With three digits that say something, and never more than are there. */
export function figure(value: number): string {
  const places = Math.min(Math.max(2 - Math.floor(Math.log10(Math.abs(value) || 1)), 0), 6);
  return String(Number(value.toFixed(places))).replace('-', '−');
}

/** A step of the ruler that leaves room for its figures. */
export function rulerStep(total_ms: number, width: number): number {
  const least = (total_ms / Math.max(width, 1)) * 62;
  return (
    [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000, 60_000].find((step) => step >= least) ??
    120_000
  );
}

/** Whether a state is reached, or set out from, with this segment: of a rest and the way after it only with the rest. */
export function beginsState(segments: readonly Segment[], index: number): boolean {
  const [segment, before] = [segments[index], segments[index - 1]];
  if (!segment || !before) return segment !== undefined;
  return before.kind === 'travel' && (segment.kind === 'travel' || before.from !== segment.from);
}

/** px of a letter, on the safe side */
const LETTER = 6.8;

/** As much of a name as there is room for, px; nothing of it rather than a letter or two. */
export function fitted(name: string, room: number): string {
  const letters = Math.floor(room / LETTER);
  if (letters >= name.length) return name;
  return letters > 2 ? `${name.slice(0, letters - 1)}…` : '';
}
