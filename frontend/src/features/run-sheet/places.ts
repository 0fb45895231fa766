/* Where bars come to stand when they are pulled, and what goes along with them. Pure. */
import type { Transition } from '../../api/contract';
import { edits } from '../workbench';
import { linkedTo } from './findings';
import { laneOfBar, type Bar } from './model';

/** Which part of bars is pulled, and how far; `alone`: that property and not its whole layer. */
export interface Pull {
  part: 'move' | 'start' | 'end';
  by_ms: number;
  alone: boolean;
  /** Where what is pulled was: of the bar that is held. */
  edge_ms: number;
}

export type Place = readonly [start: number, end: number];
export type Places = ReadonlyMap<string, Place>;

/** ms: a bar is never shorter. */
const LEAST = 1;

/** Where each of the pulled bars comes to stand. Several are stretched as one, from the end that stays. */
export function placesOf(pulled: readonly Bar[], { part, by_ms, edge_ms }: Pull): Places {
  if (part === 'move' || pulled.length === 1) return new Map(pulled.map((bar) => [bar.key, placeOf(bar, part, by_ms)]));
  const stays = part === 'end' ? Math.min(...pulled.map(start)) : Math.max(...pulled.map(end));
  const factor = Math.max((edge_ms + by_ms - stays) / (edge_ms - stays || 1), 0.01);
  const moved = (ms: number) => stays + (ms - stays) * factor;
  return new Map(
    pulled.map((bar) => [bar.key, [moved(bar.start_ms), Math.max(moved(bar.end_ms), moved(bar.start_ms) + LEAST)]]),
  );
}

const start = (bar: Bar) => bar.start_ms;
const end = (bar: Bar) => bar.end_ms;

/** Trimming stops at the other end. */
function placeOf({ start_ms, end_ms }: Bar, part: Pull['part'], by_ms: number): Place {
  if (part === 'move') return [start_ms + by_ms, end_ms + by_ms];
  if (part === 'start') return [Math.min(start_ms + by_ms, end_ms - LEAST), end_ms];
  return [start_ms, Math.max(end_ms + by_ms, start_ms + LEAST)];
}

type Lane = ReturnType<typeof edits.laneOf>;
const laneOf = (transitions: readonly Transition[], bar: Bar): Lane => {
  const { layer, property } = laneOfBar(bar);
  return edits.laneOf(transitions, bar.transition, layer, property);
};

/** The same with all that goes along: the other bars of a layer that is moved as a whole, and what is linked to one. */
export function withFollowers(
  transitions: readonly Transition[],
  bars: readonly Bar[],
  pulled: Places,
  alone: boolean,
): Places {
  const places = new Map(pulled);
  const byKey = new Map(bars.map((bar) => [bar.key, bar]));
  const waiting = [...pulled.keys()];
  for (const key of waiting) {
    const bar = byKey.get(key);
    const place = places.get(key);
    if (!bar || !place) continue;
    const [by, byEnd] = [place[0] - bar.start_ms, place[1] - bar.end_ms];
    for (const other of bars) {
      if (places.has(other.key) || other.base_ms !== bar.base_ms || other.transition !== bar.transition) continue;
      const moved = isSibling(transitions, bar, other, alone && pulled.has(key))
        ? ([by, byEnd] as const)
        : linked(transitions, bar, other, bars, [by, byEnd]);
      if (!moved) continue;
      places.set(other.key, [other.start_ms + moved[0], other.end_ms + moved[1]]);
      waiting.push(other.key);
    }
  }
  return places;
}

/** Whether both go by the lane of one layer. */
function isSibling(transitions: readonly Transition[], bar: Bar, other: Bar, alone: boolean): boolean {
  const [one, two] = [laneOfBar(bar), laneOfBar(other)];
  if (one.layer !== two.layer) return false;
  if (one.ofCopy) return two.ofCopy;
  return !alone && !laneOf(transitions, bar)?.property && !laneOf(transitions, other)?.property;
}

function linked(
  transitions: readonly Transition[],
  bar: Bar,
  other: Bar,
  bars: readonly Bar[],
  [by, byEnd]: Place,
): Place | null {
  const anchor = laneOf(transitions, other)?.anchor;
  const to = anchor?.layer ? linkedTo(other, anchor, bars) : undefined;
  if (!anchor || to?.key !== bar.key) return null;
  const shift = anchor.edge === 'with' ? by : byEnd;
  return [shift, shift];
}

/** How far the pulled bars may go before something holds them, and what that is. */
export function roomOf(
  transitions: readonly Transition[],
  pulled: readonly Bar[],
): { least: number; most: number; by: string } {
  const room = { least: -Infinity, most: Infinity, by: '' };
  for (const bar of pulled) {
    const lane = laneOf(transitions, bar);
    const delay = lane?.delay_ms ?? 0;
    const by = lane?.anchor ? 'its link' : bar.start_ms - delay > bar.base_ms + 0.5 ? 'its stagger' : 'its transition';
    if (lane?.anchor?.edge === 'before-end') {
      if (delay < room.most) Object.assign(room, { most: delay, by });
    } else if (-delay > room.least) Object.assign(room, { least: -delay, by });
  }
  return room;
}
