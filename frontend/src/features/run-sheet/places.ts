/* Where bars come to stand when they are pulled, and what goes along with them. Pure. */
import type { Transition } from '../../api/contract';
import { edits } from '../workbench';
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

type Shift = readonly [start: number, end: number];

/** What moves as one: all bars of a lane in one part of the run, and how it is linked to others. */
interface Unit {
  bars: Bar[];
  /** What starts with it or after it. */
  linked: { unit: Unit; edge: edits.Anchor['edge'] }[];
}

/** Says where everything stands when bars are pulled: the other bars of a layer that is moved as a whole, and what is
 * linked to one, go along. What holds for all pulls is worked out once. */
export function followersIn(transitions: readonly Transition[], bars: readonly Bar[]) {
  const units = unitsOf(transitions, bars);
  const unitOf = new Map([...units.values()].flatMap((unit) => unit.bars.map((bar) => [bar.key, unit] as const)));
  return (pulled: Places, alone: boolean): Places => {
    const places = new Map(pulled);
    const shifts = new Map<Unit, Shift>();
    const waiting: Unit[] = [];
    const go = (unit: Unit, shift: Shift) => {
      if (shifts.has(unit)) return;
      shifts.set(unit, shift);
      waiting.push(unit);
    };
    for (const bar of bars) {
      const [place, unit] = [pulled.get(bar.key), unitOf.get(bar.key)];
      if (place && unit) go(unit, [place[0] - bar.start_ms, place[1] - bar.end_ms]);
    }
    const held = new Set(waiting);
    for (const unit of waiting) {
      const [by, byEnd] = shifts.get(unit) ?? [0, 0];
      for (const { unit: other, edge } of unit.linked) {
        const shift = edge === 'with' ? by : byEnd;
        go(other, [shift, shift]);
      }
      if (alone && held.has(unit)) continue;
      for (const bar of unit.bars)
        if (!places.has(bar.key)) places.set(bar.key, [bar.start_ms + by, bar.end_ms + byEnd]);
    }
    return places;
  };
}

function unitsOf(transitions: readonly Transition[], bars: readonly Bar[]): ReadonlyMap<string, Unit> {
  const lanes = new Map<string, NonNullable<Lane>>(
    transitions.flatMap((way) =>
      (way.lanes ?? []).map((lane) => [`${way.id} ${lane.layer} ${lane.property ?? ''}`, lane] as const),
    ),
  );
  const units = new Map<string, Unit>();
  // The bar that an anchor names is the first of its layer, or of that property, in the same part of the run.
  const firsts = new Map<string, Unit>();
  const anchored: [Unit, Bar, edits.Anchor][] = [];
  for (const bar of bars) {
    const { layer, property } = laneOfBar(bar);
    const [part, of] = [`${bar.transition} ${bar.base_ms}`, `${bar.transition} ${layer}`];
    const own = lanes.get(`${of} ${property}`);
    const key = `${part} ${layer} ${own || laneOfBar(bar).ofCopy ? property : ''}`;
    const lane = own ?? lanes.get(`${of} `);
    let unit = units.get(key);
    if (!unit) {
      units.set(key, (unit = { bars: [], linked: [] }));
      if (lane?.anchor?.layer) anchored.push([unit, bar, lane.anchor]);
    }
    unit.bars.push(bar);
    for (const name of [`${part} ${bar.layer}`, `${part} ${bar.layer} ${bar.property}`])
      if (!firsts.has(name)) firsts.set(name, unit);
  }
  for (const [unit, { transition, base_ms }, { layer, property, edge }] of anchored) {
    const named = `${transition} ${base_ms} ${layer}`;
    firsts.get(property ? `${named} ${property}` : named)?.linked.push({ unit, edge });
  }
  return units;
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
