/* What in a run deserves a look: time in which nothing moves, motion that is cut off, a loop that jumps. Pure. */
import type { Run, Seam, Transition } from '../../api/contract';
import { edits, jumpText } from '../workbench';
import type { Bar } from './model';
import { known } from '../../shared/known';

export interface Mark {
  key: string;
  kind: 'dead' | 'clash' | 'seam';
  from_ms: number;
  to_ms: number;
  /** Of a clash: the bar that does not go as it says. */
  bar: Bar | null;
  says: string;
}

/** What stands still is brass, as holds are; what is wrong is coral. */
export const inkOf = ({ kind }: Mark) => (kind === 'dead' ? 'brass' : 'coral');

/** Times inside of transitions in which nothing moves. */
export function deadTimes(bars: readonly Bar[], run: Run, transitions: readonly Transition[]): [number, number][] {
  // All of a cross-fade is seen to change, though no value moves.
  const fading = new Set(transitions.filter((t) => t.style === 'cross-fade').map((t) => t.id));
  const sorted = new Map<number, Bar[]>();
  for (const bar of [...bars].sort((a, b) => a.start_ms - b.start_ms))
    (sorted.get(bar.base_ms) ?? known(sorted.set(bar.base_ms, []).get(bar.base_ms))).push(bar);
  return run.segments
    .filter((segment, i) => segment.kind === 'travel' && !fading.has(known(run.transitions[i])))
    .flatMap((travel) => {
      const dead: [number, number][] = [];
      let end = travel.start_ms;
      for (const bar of sorted.get(travel.start_ms) ?? []) {
        if (bar.start_ms > end) dead.push([end, bar.start_ms]);
        end = Math.max(end, bar.end_ms);
      }
      return travel.end_ms > end ? [...dead, [end, travel.end_ms] as [number, number]] : dead;
    });
}

/** Moves that are still under way when the same property is moved on. */
export function cutOff(bars: readonly Bar[]): Mark[] {
  const under = new Map<string, Bar>();
  return [...bars]
    .sort((a, b) => a.start_ms - b.start_ms)
    .flatMap((next): Mark[] => {
      const bar = under.get(next.row);
      under.set(next.row, next);
      return bar && next.start_ms < bar.end_ms
        ? [
            {
              key: `cut ${bar.key}`,
              kind: 'clash',
              from_ms: next.start_ms,
              to_ms: bar.end_ms,
              bar,
              says: 'is cut off by what comes next',
            },
          ]
        : [];
    });
}

/** Moves that should begin before their transition does. */
export function tooSoon(bars: readonly Bar[], transitions: readonly Transition[]): Mark[] {
  const linking = new Set(
    transitions.filter((t) => (t.lanes ?? []).some((lane) => lane.anchor?.edge === 'before-end')).map((t) => t.id),
  );
  return bars
    .filter((bar) => linking.has(bar.transition))
    .flatMap((bar): Mark[] => {
      const lane = edits.laneOf(transitions, bar.transition, bar.layer, bar.property);
      if (lane?.anchor?.edge !== 'before-end') return [];
      const end = linkedTo(bar, lane.anchor, bars)?.end_ms;
      const missing = end === undefined ? 0 : bar.base_ms - (end - (lane.delay_ms ?? 0));
      return missing > 0
        ? [
            {
              key: `soon ${bar.key}`,
              kind: 'clash',
              from_ms: bar.start_ms,
              to_ms: bar.start_ms + missing,
              bar,
              says: `should begin ${missing} ms before its transition does`,
            },
          ]
        : [];
    });
}

/** The bar that an anchor names, in the same part of the run. */
export const linkedTo = (bar: Bar, anchor: edits.Anchor, bars: readonly Bar[]): Bar | undefined =>
  bars.find(
    (other) =>
      other.base_ms === bar.base_ms &&
      other.layer === anchor.layer &&
      (!anchor.property || anchor.property === other.property),
  );

// px per second: less of a change is hardly seen.
const LEAST_BREAK = 60;

/** Motion that does not go on at the seam as fast as it came there. */
const breakOf = (seam: Seam | null, run: Run): Mark[] =>
  seam && seam.speed >= LEAST_BREAK
    ? [
        {
          key: 'speed',
          kind: 'seam',
          from_ms: run.total_ms,
          to_ms: run.total_ms,
          bar: null,
          says: `the speed breaks at the seam by ${seam.speed.toFixed(0)} px/s`,
        },
      ]
    : [];

/** All of them, in the order of time. */
export function marksOf(bars: readonly Bar[], run: Run, seam: Seam | null, transitions: readonly Transition[]): Mark[] {
  const dead = deadTimes(bars, run, transitions).map(([from_ms, to_ms]): Mark => ({
    key: `dead ${from_ms}`,
    kind: 'dead',
    from_ms,
    to_ms,
    bar: null,
    says: 'nothing moves',
  }));
  const jump: Mark[] = seam?.open
    ? [
        {
          key: 'seam',
          kind: 'seam',
          from_ms: run.total_ms,
          to_ms: run.total_ms,
          bar: null,
          says: `the seam jumps: ${jumpText(seam)}`,
        },
      ]
    : breakOf(seam, run);
  return [...dead, ...cutOff(bars), ...tooSoon(bars, transitions), ...jump].sort((a, b) => a.from_ms - b.from_ms);
}
