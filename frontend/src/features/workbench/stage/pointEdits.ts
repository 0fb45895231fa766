/* What becomes of the points of a path. Pure. */
import type { Point } from '../../../shared/geometry/matrix';
import type { Knot, Subpath } from '../../../shared/geometry/path';
import { firstOf, known, lastOf } from '../../../shared/known';
import { round } from '../../../shared/text/sums';

export type Part = 'at' | 'into' | 'out';
/** A point, or one of its handles. */
export type Place = readonly [subpath: number, knot: number, part: Part];
/** A point itself. */
export type Corner = readonly [subpath: number, knot: number];

export const changed = (subpaths: readonly Subpath[], s: number, k: number, knot: Knot): Subpath[] =>
  subpaths.map((subpath, i) =>
    i === s ? { ...subpath, knots: subpath.knots.map((old, j) => (j === k ? knot : old)) } : subpath,
  );

/** A point takes its handles along; a handle takes the one across with it, unless `alone`. */
export function moved(subpaths: readonly Subpath[], [s, k, part]: Place, to: Point, alone: boolean): Subpath[] {
  const knot = known(known(subpaths[s]).knots[k]);
  if (part === 'at') {
    const by: Point = [to[0] - knot.at[0], to[1] - knot.at[1]];
    const along = (handle: Point | null): Point | null => handle && [handle[0] + by[0], handle[1] + by[1]];
    return changed(subpaths, s, k, { at: to, into: along(knot.into), out: along(knot.out) });
  }
  const across = part === 'into' ? 'out' : 'into';
  const opposite = knot[across];
  const mirrored: Point | null = opposite && !alone ? [2 * knot.at[0] - to[0], 2 * knot.at[1] - to[1]] : opposite;
  return changed(subpaths, s, k, { ...knot, [part]: to, [across]: mirrored });
}

/** A corner gets handles along the way from its neighbour before to the one after; a bend loses them. */
export function bent({ knots }: Subpath, k: number): Knot {
  const knot = known(knots[k]);
  if (knot.into || knot.out) return { at: knot.at, into: null, out: null };
  const before = knots[k - 1] ?? lastOf(knots);
  const after = knots[k + 1] ?? firstOf(knots);
  const by: Point = [(after.at[0] - before.at[0]) / 6, (after.at[1] - before.at[1]) / 6];
  return { at: knot.at, into: [knot.at[0] - by[0], knot.at[1] - by[1]], out: [knot.at[0] + by[0], knot.at[1] + by[1]] };
}

/** Straightened where any of them is bent, else bent. */
export function bentAll(subpaths: readonly Subpath[], corners: readonly Corner[]): Subpath[] {
  const isBent = corners.some(([s, k]) => subpaths[s]?.knots[k]?.into || subpaths[s]?.knots[k]?.out);
  return subpaths.map((subpath, s) => ({
    ...subpath,
    knots: subpath.knots.map((knot, k) => {
      if (!isAmong(corners, s, k)) return knot;
      return isBent ? { at: knot.at, into: null, out: null } : bent(subpath, k);
    }),
  }));
}

export const movedBy = (subpaths: readonly Subpath[], corners: readonly Corner[], [dx, dy]: Point): Subpath[] =>
  corners.reduce<Subpath[]>(
    (all, [s, k]) => {
      const at = all[s]?.knots[k]?.at;
      return at ? moved(all, [s, k, 'at'], [round(at[0] + dx), round(at[1] + dy)], false) : all;
    },
    [...subpaths],
  );

const isAmong = (corners: readonly Corner[], s: number, k: number) => corners.some(([a, b]) => a === s && b === k);

/** Without these points, and without outlines of which fewer than two are left; null where nothing would be. */
export function withoutAll(subpaths: readonly Subpath[], corners: readonly Corner[]): Subpath[] | null {
  const left = subpaths
    .map((subpath, s) => ({ ...subpath, knots: subpath.knots.filter((_, k) => !isAmong(corners, s, k)) }))
    .filter(({ knots }) => knots.length > 1);
  return left.length ? left : null;
}

/** An open outline closed; of a closed one the way behind a point is taken out, so that it ends there. */
export const closedOrOpened = (subpaths: readonly Subpath[], s: number, k: number): Subpath[] =>
  subpaths.map((subpath, i) => {
    if (i !== s) return subpath;
    if (!subpath.closed) return { ...subpath, closed: true };
    const knots = [...subpath.knots.slice(k + 1), ...subpath.knots.slice(0, k + 1)];
    const ends = knots.map((knot, j) => ({
      ...knot,
      ...(j === 0 && { into: null }),
      ...(j === knots.length - 1 && { out: null }),
    }));
    return { knots: ends, closed: false };
  });

/** The other way round. */
export const reversed = (knots: readonly Knot[]): Knot[] =>
  knots.toReversed().map(({ at, into, out }) => ({ at, into: out, out: into }));
