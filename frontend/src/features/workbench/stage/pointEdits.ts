/* What becomes of the points of a path. Pure. */
import type { Point } from '../../../shared/geometry/matrix';
import type { Knot, Subpath } from '../../../shared/geometry/path';
import { firstOf, known, lastOf } from '../../../shared/known';

export type Part = 'at' | 'into' | 'out';
/** A point, or one of its handles. */
export type Place = readonly [subpath: number, knot: number, part: Part];

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

/** Without one of its points; nothing of an outline that would have too few. */
export const without = (subpaths: readonly Subpath[], s: number, k: number): Subpath[] | null =>
  known(subpaths[s]).knots.length > 2
    ? subpaths.map((old, i) => (i === s ? { ...old, knots: old.knots.filter((_, j) => j !== k) } : old))
    : null;
