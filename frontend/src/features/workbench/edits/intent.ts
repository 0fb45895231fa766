/* What an edit means, whatever the document has become: fields of things that are known by their ids. Pure.
 *
 * A patch by index says where something stood when it was made. An intent says which thing and which of its fields, so
 * it can wait, survive a reload, and be made after somebody else's edits without taking them back. */
import equal from 'fast-deep-equal';
import type { Operation, Piece } from '../../../api/contract';
import { CannotBe } from './cannotBe';
import { patched } from './patched';

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };
type Thing = { [key: string]: Json };

/** A field by its name, or a thing in a list by its key. */
type Step = string | { key: string };

export type Change =
  | { to: Step[]; set: Json }
  | { to: Step[]; drop: true }
  /** A thing put into a list, behind the one with that key; at its beginning with null. */
  | { to: Step[]; put: Json; behind: string | null }
  | { to: Step[]; take: string }
  | { to: Step[]; order: string[] };

export type Intent = Change[];

const isThing = (value: unknown): value is Thing =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What a thing in a list is known by: its id, of a font its family, or of a lane its layer and property. */
function keyOf(value: Json): string | null {
  if (!isThing(value)) return null;
  if (typeof value.id === 'string') return value.id;
  if (typeof value.family === 'string') return value.family;
  return typeof value.layer === 'string'
    ? `${value.layer}/${typeof value.property === 'string' ? value.property : ''}`
    : null;
}

/** The keys of a list of things, none twice; null for any other list. */
function keysOf(list: readonly Json[]): string[] | null {
  const keys = list.map(keyOf);
  return keys.every((key) => key !== null) && new Set(keys).size === keys.length ? keys : null;
}

/** What a patch made for this document means. */
export function intentOf(piece: Piece, patch: readonly Operation[]): Intent {
  return changes(piece as unknown as Json, patched(piece, patch) as unknown as Json, []);
}

function changes(before: Json, after: Json, to: Step[]): Intent {
  if (equal(before, after)) return [];
  // A spring in place of a curve is another thing, not a curve with other fields.
  if (isThing(before) && isThing(after) && before.kind === after.kind) {
    const gone = Object.keys(before)
      .filter((name) => !(name in after))
      .flatMap((name) => dropped(before[name] as Json, [...to, name]));
    return [
      ...gone,
      ...Object.keys(after).flatMap((name) =>
        name in before
          ? changes(before[name] as Json, after[name] as Json, [...to, name])
          : given(after[name] as Json, [...to, name]),
      ),
    ];
  }
  const lists = Array.isArray(before) && Array.isArray(after);
  const [old, now] = lists ? [keysOf(before), keysOf(after)] : [null, null];
  return lists && old && now && (old.length || now.length)
    ? ofLists(before, after, old, now, to)
    : [{ to, set: after }];
}

/** What a state says of layers is told value by value, so that what somebody else says beside it stays. */
const isSpread = (value: Json, to: readonly Step[]): value is Thing =>
  isThing(value) && to[0] === 'states' && to[2] === 'changes' && to.length < 5;

const given = (value: Json, to: Step[]): Intent =>
  isSpread(value, to) && Object.keys(value).length
    ? Object.entries(value).flatMap(([name, inner]) => given(inner, [...to, name]))
    : [{ to, set: value }];

const dropped = (value: Json, to: Step[]): Intent =>
  isSpread(value, to) && Object.keys(value).length
    ? Object.entries(value).flatMap(([name, inner]) => dropped(inner, [...to, name]))
    : [{ to, drop: true }];

function ofLists(before: Json[], after: Json[], old: string[], now: string[], to: Step[]): Intent {
  const taken = old.filter((key) => !now.includes(key)).map((take): Change => ({ to, take }));
  const put = now.flatMap((key, i): Change[] =>
    old.includes(key) ? [] : [{ to, put: after[i] as Json, behind: now[i - 1] ?? null }],
  );
  const kept = now.filter((key) => old.includes(key));
  const moved: Change[] = equal(
    kept,
    old.filter((key) => now.includes(key)),
  )
    ? []
    : [{ to, order: now }];
  const inside = kept.flatMap((key) =>
    changes(before[old.indexOf(key)] as Json, after[now.indexOf(key)] as Json, [...to, { key }]),
  );
  return [...inside, ...taken, ...put, ...moved];
}

const escaped = (name: string | number) => String(name).replace(/~/g, '~0').replace(/\//g, '~1');

/** The patch that does it to this document. Throws CannotBe where what it is about has gone. */
export function patchFor(piece: Piece, intent: Intent): Operation[] {
  const patch: Operation[] = [];
  let now = piece as unknown as Json;
  for (const change of intent) {
    const made = operations(now, change);
    patch.push(...made);
    now = patched(now, made);
  }
  return patch;
}

function operations(document: Json, change: Change): Operation[] {
  if ('set' in change) return settings(document, change.to, change.set);
  if ('drop' in change) return removals(document, change.to);
  const { path, value } = find(document, change.to);
  const list = Array.isArray(value) ? value : [];
  const keys = list.map(keyOf);
  if ('take' in change)
    return keys.includes(change.take) ? [{ op: 'remove', path: `${path}/${keys.indexOf(change.take)}` }] : [];
  if ('order' in change) return ordered(path, keys, change.order);
  const there = keys.indexOf(keyOf(change.put));
  if (there >= 0) return [{ op: 'replace', path: `${path}/${there}`, value: change.put as never }];
  const behind = change.behind === null ? 0 : keys.indexOf(change.behind) + 1 || list.length;
  return [{ op: 'add', path: `${path}/${behind}`, value: change.put as never }];
}

/** Sets a field, with the things around it that are not written yet. */
function settings(document: Json, to: readonly Step[], value: Json): Operation[] {
  let [path, holder, set] = ['', document, value];
  for (const [i, step] of to.entries()) {
    const next = into(holder, step);
    if (next === undefined && typeof step === 'string') {
      for (const missing of to.slice(i + 1).reverse()) set = { [missing as string]: set };
      return [{ op: 'add', path: `${path}/${escaped(step)}`, value: set as never }];
    }
    path += `/${placeOf(holder, step)}`;
    holder = next as Json;
  }
  return [{ op: 'replace', path, value: value as never }];
}

/** Takes a field out; with what it stands in, where a state then says nothing of a layer any more. */
function removals(document: Json, to: readonly Step[]): Operation[] {
  const { path, value } = find(document, to.slice(0, -1));
  const name = to.at(-1) as string;
  if (!isThing(value) || !(name in value)) return [];
  const alone = Object.keys(value).length === 1 && to[0] === 'states' && to.length === 5;
  return [{ op: 'remove', path: alone ? path : `${path}/${escaped(name)}` }];
}

/** Moves that bring things into an order; those that it does not name stay behind the one before them. */
function ordered(path: string, keys: readonly (string | null)[], order: readonly string[]): Operation[] {
  const now = [...keys];
  const moves: Operation[] = [];
  let at = 0;
  for (const key of order) {
    const from = now.indexOf(key);
    if (from < 0) continue;
    if (from !== at) {
      moves.push({ op: 'move', from: `${path}/${from}`, path: `${path}/${at}` });
      now.splice(at, 0, ...now.splice(from, 1));
    }
    at++;
  }
  return moves;
}

function find(document: Json, to: readonly Step[]): { path: string; value: Json } {
  let [path, value] = ['', document];
  for (const step of to) {
    const next = into(value, step);
    path += `/${placeOf(value, step)}`;
    value = next ?? {};
  }
  return { path, value };
}

const placeOf = (value: Json, step: Step): string | number =>
  typeof step === 'string' ? escaped(step) : (value as Json[]).map(keyOf).indexOf(step.key);

/** What stands there; undefined for a field that is not written. Throws CannotBe for a thing that has gone. */
function into(value: Json, step: Step): Json | undefined {
  if (typeof step === 'string') return isThing(value) ? value[step] : undefined;
  const found = Array.isArray(value) ? value.find((item) => keyOf(item) === step.key) : undefined;
  if (found === undefined)
    throw new CannotBe(`What this was about has been deleted meanwhile: ${step.key.replace(/\/$/, '')}.`);
  return found;
}
