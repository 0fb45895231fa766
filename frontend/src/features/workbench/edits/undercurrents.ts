/* Undercurrents: what goes round on its own, its keys, and who goes through them in turn. Pure. */
import equal from 'fast-deep-equal';
import type { Gradient, Operation, Piece, Pose, TransitionReading, Value } from '../../../api/contract';
import { firstOf, known, lastOf } from '../../../shared/known';
import { placed, propertiesOf, propertyNamed } from '../tree';
import { CannotBe } from './cannotBe';
import { freeId, freeNameAmong, named, type Edit } from './edit';
import { unbound } from './parameters';

export type Undercurrent = NonNullable<Piece['undercurrents']>[number];
export type Course = Undercurrent['courses'][number];
export type Key = Course['keys'][number];

/** ms, of one that is new. */
const PERIOD = 1200;
const SOFT = 'ease-in-out';

/** Courses that take the same property through the same keys: layers that do so together, or one after the other. */
export interface Round {
  property: string;
  keys: readonly Key[];
  layers: string[];
  /** Of its courses among those of the undercurrent. */
  at: number[];
  offsets: number[];
}

export const undercurrentsOf = (piece: Piece): readonly Undercurrent[] => piece.undercurrents ?? [];
export const undercurrentOf = (piece: Piece, id: string | null): Undercurrent | undefined =>
  undercurrentsOf(piece).find((own) => own.id === id);

export function roundsOf({ courses }: Undercurrent): Round[] {
  const found: Round[] = [];
  courses.forEach(({ layer, property, keys, offset_ms = 0 }, at) => {
    const alike = found.find((round) => round.property === property && equal(round.keys, keys));
    const round = alike ?? { property, keys, layers: [], at: [], offsets: [] };
    if (!alike) found.push(round);
    round.layers.push(layer);
    round.at.push(at);
    round.offsets.push(offset_ms);
  });
  return found;
}

/** What can go round in all of these layers and does not yet. */
export function freeToGoRound(piece: Piece, ids: readonly string[]) {
  const taken = new Set(undercurrentsOf(piece).flatMap((u) => u.courses.map((c) => `${c.layer}/${c.property}`)));
  const [first, ...others] = ids.map((id) =>
    propertiesOf(placed(piece, id).layer).filter(
      ({ name, varies, blend }) => varies && MOVABLE.has(blend) && !taken.has(`${id}/${name}`),
    ),
  );
  return (first ?? []).filter(({ name }) => others.every((list) => list.some((property) => property.name === name)));
}

const MOVABLE = new Set(['linear', 'perspective', 'paint']);

/** Keys that are seen to move: once around, or there and back. */
export function firstKeys(name: string, value: Value, period = PERIOD): Key[] {
  const turned = onceAround(name, value);
  if (turned !== null) {
    return [
      { at_ms: 0, value, easing: 'linear' },
      { at_ms: period, value: turned, easing: 'linear' },
    ];
  }
  return [
    { at_ms: 0, value, easing: SOFT },
    { at_ms: Math.max(Math.round(period / 2), 1), value: there(name, value), easing: SOFT },
  ];
}

const turns = (gradient: Gradient): gradient is Exclude<Gradient, { kind: 'radial' }> => gradient.kind !== 'radial';

/** From its beginning to its end, at its own pace. */
export const playedThrough = (length_ms: number): Key[] => [
  { at_ms: 0, value: 0, easing: 'linear' },
  { at_ms: length_ms, value: length_ms, easing: 'linear' },
];

/** Angles go round; null for what does not. */
function onceAround(name: string, value: Value): Value | null {
  if (name === 'rotation' && typeof value === 'number') return value + 360;
  if (!isGradient(value) || !turns(value)) return null;
  return { ...value, angle: (value.angle ?? (value.kind === 'linear' ? 180 : 0)) + 360 };
}

export const isGradient = (value: unknown): value is Gradient =>
  typeof value === 'object' && value !== null && 'stops' in value;

const STEPS: Record<string, number> = { px: 12, '°': 15 };

function there(name: string, value: Value): Value {
  if (isGradient(value)) return value.kind === 'radial' ? { ...value, radius: (value.radius ?? 0.5) * 1.2 } : value;
  if (typeof value === 'string') return value === '#ffffff' ? '#9fb6bd' : '#ffffff';
  const { unit, low, high } = propertyNamed(name);
  const from = Number(value);
  const by = STEPS[unit] ?? (name.startsWith('scale') ? 0.1 : 0.5);
  const up = Math.round((from + by) * 1000) / 1000;
  return high !== null && up > high ? Math.max(Math.round((from - by) * 1000) / 1000, low ?? -Infinity) : up;
}

interface Made extends Edit {
  id: string;
}

/** A property of some layers goes round, in all states; several layers one after the other. */
export function addUndercurrent(piece: Piece, pose: Pose, ids: readonly string[], property: string): Made {
  const { label } = propertyNamed(property);
  const names = named(
    ids.map((id) => placed(piece, id).layer.name),
    'layers',
  );
  return added(piece, `${names} ${label}`, PERIOD, coursesOf(pose, ids, property, PERIOD));
}

function coursesOf(pose: Pose, ids: readonly string[], property: string, period: number): Course[] {
  return ids.map((layer, i) => ({
    layer,
    property,
    offset_ms: Math.round((i * period) / (2 * ids.length)),
    keys: firstKeys(property, known(known(pose[layer])[property]), period) as Course['keys'],
  }));
}

export function added(piece: Piece, wanted: string, period_ms: number, courses: Course[]): Made {
  const all = undercurrentsOf(piece);
  const name = freeNameAmong(new Set(all.map((own) => own.name)), wanted.slice(0, 110));
  const id = freeId(
    all.map((own) => own.id),
    name,
  );
  const own = { id, name, period_ms, courses };
  return { id, label: `Undercurrent ${name}`, patch: [{ op: 'add', path: '/undercurrents', value: [...all, own] }] };
}

/** What a transition moves, there as it does and back again, for ever. Throws CannotBe where it moves nothing that can. */
export function undercurrentFrom(
  piece: Piece,
  reading: TransitionReading,
  poses: Record<string, Pose>,
  way: { from: string; to: string; name: string; easing: string },
): Made {
  const period = Math.max(2 * reading.length_ms, 2);
  const taken = new Set(undercurrentsOf(piece).flatMap((u) => u.courses.map((c) => `${c.layer}/${c.property}`)));
  const courses = reading.moves.flatMap(([layer, property, start, end]): Course[] => {
    const values = [way.from, way.to].map((state) => poses[state]?.[layer]?.[property]);
    const [from, to] = values;
    const isMovable = MOVABLE.has(propertyNamed(property).blend) && !taken.has(`${layer}/${property}`);
    if (!isMovable || layer.includes('/') || from === undefined || to === undefined || shapeOf(from) !== shapeOf(to))
      return [];
    const keys = [
      { at_ms: 0, value: from, easing: start > 0 ? 'linear' : way.easing },
      ...(start > 0 ? [{ at_ms: start, value: from, easing: way.easing }] : []),
      { at_ms: Math.max(end, start + 1), value: to, easing: SOFT },
    ];
    return [{ layer, property, keys: keys as unknown as Course['keys'] }];
  });
  if (!courses.length) throw new CannotBe(`${way.name} moves no number and no colour that does not go round already.`);
  return added(piece, way.name, period, courses);
}

const shapeOf = (value: Value) => (isGradient(value) ? `${value.kind} ${value.stops.length}` : typeof value);

const index = (piece: Piece, id: string) => undercurrentsOf(piece).findIndex((own) => own.id === id);
const replaced = (piece: Piece, label: string, next: Undercurrent): Edit => ({
  label,
  patch: [{ op: 'replace', path: `/undercurrents/${index(piece, next.id)}`, value: next }],
});

/** Its name, phase or states. */
export function setUndercurrent(
  piece: Piece,
  own: Undercurrent,
  what: string,
  fields: Partial<Pick<Undercurrent, 'name' | 'phase_ms' | 'states'>>,
): Edit {
  return replaced(piece, `${what} of ${own.name}`, { ...own, ...fields });
}

/** Another period, with all keys at the same shares of it. Throws CannotBe where they would fall on each other. */
export function setPeriod(piece: Piece, own: Undercurrent, period_ms: number): Edit {
  if (!(period_ms >= 1)) throw new CannotBe('A period takes 1 ms or more.');
  const paced = (ms: number) => Math.round((ms * period_ms) / own.period_ms);
  const courses = own.courses.map((course) => {
    const keys = course.keys.map((key) => ({ ...key, at_ms: paced(key.at_ms) }));
    if (keys.some((key, k) => k > 0 && key.at_ms <= known(keys[k - 1]).at_ms))
      throw new CannotBe(`In ${period_ms} ms keys would fall on each other. Leave more time, or take out keys.`);
    return { ...course, offset_ms: paced(course.offset_ms ?? 0), keys };
  });
  const next = { ...own, period_ms, phase_ms: paced(own.phase_ms ?? 0), courses } as Undercurrent;
  return replaced(piece, `Period of ${own.name}`, next);
}

/** The keys of a round, of all its layers. */
export function setKeys(piece: Piece, own: Undercurrent, round: Round, what: string, keys: readonly Key[]): Edit {
  const courses = own.courses.map((course, at) => (round.at.includes(at) ? { ...course, keys } : course));
  return replaced(piece, what, { ...own, courses } as Undercurrent);
}

/** How much later each layer comes than the one before it. */
export function setTurn(piece: Piece, own: Undercurrent, round: Round, each_ms: number): Edit {
  const courses = own.courses.map((course, at) => {
    const turn = round.at.indexOf(at);
    return turn < 0 ? course : { ...course, offset_ms: turn * each_ms };
  });
  return replaced(piece, `Layers of ${own.name} in turn`, { ...own, courses } as Undercurrent);
}

/** The ms by which each layer comes later than the one before; null where they differ. */
export function turnOf({ offsets }: Round): number | null {
  const each = (offsets[1] ?? 0) - (offsets[0] ?? 0);
  return offsets.every((offset, i) => offset === i * each) ? each : null;
}

export function addRound(piece: Piece, own: Undercurrent, pose: Pose, ids: readonly string[], property: string): Edit {
  const courses = [...own.courses, ...coursesOf(pose, ids, property, own.period_ms)];
  return replaced(piece, `${propertyNamed(property).label} in ${own.name}`, { ...own, courses } as Undercurrent);
}

export function removeRound(piece: Piece, own: Undercurrent, round: Round): Edit {
  const courses = own.courses.filter((_, at) => !round.at.includes(at));
  if (!courses.length) return removeUndercurrent(piece, own);
  return replaced(piece, `No ${propertyNamed(round.property).label} in ${own.name}`, {
    ...own,
    courses,
  } as Undercurrent);
}

export function removeUndercurrent(piece: Piece, own: Undercurrent): Edit {
  const remove: Operation = { op: 'remove', path: `/undercurrents/${index(piece, own.id)}` };
  return { label: `Delete ${own.name}`, patch: [remove, ...unbound(piece, (bind) => bind.undercurrent === own.id)] };
}

/** Places of keys, ms: where one may be put, between those beside it; the first begins the period. */
export function roomOf(keys: readonly Key[], k: number, period: number): readonly [number, number] {
  if (k === 0) return [0, 0];
  return [known(keys[k - 1]).at_ms + 1, (keys[k + 1]?.at_ms ?? period + 1) - 1];
}

export const movedKey = (keys: readonly Key[], k: number, at_ms: number, period: number): Key[] => {
  const [least, most] = roomOf(keys, k, period);
  return keys.map((key, i) => (i === k ? { ...key, at_ms: Math.min(Math.max(Math.round(at_ms), least), most) } : key));
};

/** One more, with the value that is shown there; null where one stands already. */
export function withKey(keys: readonly Key[], at_ms: number, value: Value): { keys: Key[]; at: number } | null {
  if (keys.some((key) => key.at_ms === at_ms)) return null;
  const next = keys.findIndex((key) => key.at_ms > at_ms);
  const at = next < 0 ? keys.length : next;
  const easing = keys[at - 1]?.easing ?? SOFT;
  return { keys: [...keys.slice(0, at), { at_ms, value, easing }, ...keys.slice(at)], at };
}

/** What stands at the end of the period: the last key, or the first again. */
export const closes = (keys: readonly Key[], period: number): boolean =>
  lastOf(keys).at_ms < period || equal(lastOf(keys).value, firstOf(keys).value);

/** A key with another value. Where that is of another shape, such as a gradient with one stop more, the others follow
 * and keep what numbers they had. */
export function alikeKeys(keys: readonly Key[], k: number, value: Value): Key[] {
  return keys.map((key, i) => {
    if (i === k) return { ...key, value };
    const other = key.value as Value;
    if (shapeOf(other) === shapeOf(value)) return key;
    const isSameKind = isGradient(value) && isGradient(other) && value.kind === other.kind;
    return { ...key, value: isSameKind ? { ...value, ...other, stops: value.stops } : value };
  });
}
