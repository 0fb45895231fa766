/* What can be set of a piece while it plays: `core/live/settable.py`, whose `set` is the law of `played`. */
import type { Motion, Tables } from './data';
import { at } from './tables';

type Look = Readonly<Record<string, unknown>>;
type Path = readonly (string | number)[];

/** What a piece plays: its start, by layer and property, and its tables. */
export interface Played {
  readonly pose: Readonly<Record<string, Look>>;
  readonly tables: Tables;
}

/** One place of a value: as it is, as a colour of four numbers from there on, or on a line; or what follows from others. */
type Slot = readonly [id: string, how: How, path: Path, at0: number, slope: number];
type How = 'as-it-is' | 'oklab' | 'srgb' | 'line' | 'longest' | 'fades';

interface Named {
  readonly id: string;
  readonly name: string;
  /** What an element calls it. */
  readonly attribute: string;
  readonly property: string;
}

export interface Given extends Named {
  readonly kind: 'text' | 'colour' | 'number' | 'time' | 'picture';
  readonly low: number | null;
  readonly high: number | null;
}

export interface Choice extends Named {
  readonly options: readonly string[];
  readonly shows: string;
}

export interface Settings {
  readonly choices: readonly Choice[];
  readonly given: readonly Given[];
  readonly ways: readonly {
    readonly options: Readonly<Record<string, string>>;
    readonly changes: readonly (readonly [path: Path, value: unknown])[];
    /** In this order: where two values go to one place the later one stays. */
    readonly filling: readonly Slot[];
  }[];
}

/** By the ids of parameters and traits; of what is not named the piece has its own. */
export type Values = Readonly<Record<string, string | number>>;

/** What is played with these values, which have been read before. */
export function played(piece: Played, { choices, ways }: Settings, values: Values): Played {
  const way = ways.find(({ options }) => choices.every(({ id, shows }) => options[id] === (values[id] ?? shows)));
  if (!way) return piece;
  let told: unknown = piece;
  for (const [path, value] of way.changes) told = put(told, path, value);
  for (const slot of way.filling) {
    const value = values[slot[0]];
    if (value !== undefined) told = filled(told, slot, value);
  }
  return told as Played;
}

/** A value as somebody wrote it, as it is played. Throws a RangeError that says what would fit. */
export function read({ choices, given }: Settings, id: string, value: unknown): string | number {
  const choice = choices.find((own) => own.id === id);
  if (choice) {
    const { name, options } = choice;
    if (!options.includes(String(value))) throw fault(name, value, `Choose ${options.join(', ')}`);
    return String(value);
  }
  const own = given.find((parameter) => parameter.id === id);
  if (!own)
    throw new RangeError(`There is no “${id}”. Known: ${[...choices, ...given].map((each) => each.id).join(', ')}.`);
  const { name, kind } = own;
  if (kind === 'text' || kind === 'picture') return String(value);
  if (kind === 'colour') {
    if (!channels(String(value))) throw fault(name, value, 'Give a colour of sRGB, such as #1f7a70');
    return String(value);
  }
  const [low, high] = [own.low ?? -Infinity, own.high ?? Infinity];
  const number = Number(value);
  if (String(value).trim() === '' || !(number >= low && number <= high)) {
    const ends = [own.low === null ? '' : `from ${own.low}`, own.high === null ? '' : `to ${own.high}`];
    throw fault(name, value, ['Give a number', ...ends, kind === 'time' ? 'ms' : ''].filter(Boolean).join(' '));
  }
  return number;
}

const fault = (name: string, value: unknown, remedy: string) =>
  new RangeError(`${name} cannot be “${String(value).slice(0, 80)}”. ${remedy}.`);

function put(tree: unknown, [key, ...path]: Path, value: unknown): unknown {
  if (key === undefined) return value;
  const copy = (Array.isArray(tree) ? [...(tree as unknown[])] : { ...(tree as object) }) as Record<
    string | number,
    unknown
  >;
  copy[key] = put(copy[key], path, value);
  return copy;
}

const inside = (tree: unknown, path: Path) =>
  path.reduce<unknown>((inner, key) => (inner as Record<string | number, unknown>)[key], tree);

function filled(tree: unknown, [, how, path, at0, slope]: Slot, value: string | number): unknown {
  if (how === 'as-it-is') return put(tree, path, value);
  if (how === 'line') return put(tree, path, at0 + slope * Number(value));
  if (how === 'longest') {
    const { spans } = inside(tree, path) as Tables['transitions'][number];
    return put(tree, [...path, 'length_ms'], Math.max(at0, ...spans.map(({ end_ms }) => end_ms)));
  }
  if (how === 'fades') return put(tree, path, fading(inside(tree, path) as Motion));
  const [way, start] = [path.slice(0, -1), Number(path.at(-1))];
  const row = [...(inside(tree, way) as number[])];
  const found = channels(String(value)) ?? [0, 0, 0, 0];
  row.splice(start, 4, ...(how === 'oklab' ? oklab(found) : premultiplied(found)));
  return put(tree, way, row);
}

/** All that is shown at rest, faded into each other. */
function fading(motion: Motion): Motion {
  const values = [...new Set(Object.values(motion.rest))];
  const places = Object.entries(motion.rest).map(([state, own]) => [
    state,
    values.map((value) => Number(value === own)),
  ]);
  const tolerances = values.map(() => at(motion.tolerances, 0));
  return {
    ...motion,
    form: { kind: 'fades', values },
    places: Object.fromEntries(places) as Motion['places'],
    tolerances,
  };
}

type Channels = readonly [r: number, g: number, b: number, alpha: number];

/** Red, green and blue in 0–255 and alpha in 0–1 of a CSS colour, as the browser reads it; null for what is none. */
function channels(text: string): Channels | null {
  const pen = document.createElement('canvas').getContext('2d');
  if (!pen) return null;
  // What is no colour leaves the one before.
  const [first, second] = ['#000000', '#ffffff'].map((before) => {
    pen.fillStyle = before;
    pen.fillStyle = text;
    return pen.fillStyle;
  });
  if (first !== second || !first) return null;
  const written = /^#(..)(..)(..)$/
    .exec(first)
    ?.slice(1)
    .map((digits) => parseInt(digits, 16));
  const numbers = written ? [...written, 1] : first.match(/[\d.]+/g)?.map(Number);
  return first.startsWith('color') || numbers?.length !== 4 ? null : (numbers as [number, number, number, number]);
}

const premultiplied = ([r, g, b, alpha]: Channels) => [r * alpha, g * alpha, b * alpha, alpha];

/** Light of sRGB: IEC 61966-2-1, from 0–255 to 0–1. */
const light = (c: number) => (c <= 0.04045 * 255 ? c / 255 / 12.92 : ((c / 255 + 0.055) / 1.055) ** 2.4);

/** The matrices of OKLab, the other way: CSS Color Level 4. */
function oklab([red, green, blue, alpha]: Channels): number[] {
  const [r, g, b] = [light(red), light(green), light(blue)];
  const l = Math.cbrt(0.4122214694707629 * r + 0.5363325372617349 * g + 0.0514459932675022 * b);
  const m = Math.cbrt(0.2119034958178251 * r + 0.6806995506452345 * g + 0.1073969535369405 * b);
  const s = Math.cbrt(0.0883024591900564 * r + 0.2817188391361215 * g + 0.6299787016738222 * b);
  const lab = [
    0.210454268309314 * l + 0.7936177747023054 * m - 0.0040720430116193 * s,
    1.9779985324311684 * l - 2.4285922420485799 * m + 0.450593709617411 * s,
    0.0259040424655478 * l + 0.7827717124575296 * m - 0.8086757549230774 * s,
  ];
  return premultiplied([at(lab, 0), at(lab, 1), at(lab, 2), alpha]);
}
