/* Outlines as points with handles, read from SVG path data and written as such. Pure. */
import svgpath from 'svgpath';
import { round } from '../text/sums';
import { firstOf, known, lastOf } from '../known';

export type Point = [number, number];

/** A point of an outline; a handle that is missing makes the outline leave or arrive straight. */
export interface Knot {
  at: Point;
  into: Point | null;
  out: Point | null;
}

export interface Subpath {
  knots: Knot[];
  closed: boolean;
}

/** Arcs and quadratic curves become cubic ones, which go exactly (quadratic) or almost (arcs, 0.03% of the radius) the same way. */
export function readPath(d: string): Subpath[] {
  const subpaths: Subpath[] = [];
  const knots = () => lastOf(subpaths).knots;
  svgpath(d)
    .abs()
    .unarc()
    .unshort()
    .iterate(([letter, ...n], _, x, y) => {
      const to = (at: Point, out: Point | null = null, into: Point | null = null) => {
        const last = lastOf(knots());
        // A handle at its point is none.
        last.out = out && !isSame(out, last.at) ? out : null;
        knots().push({ at, into: into && !isSame(into, at) ? into : null, out: null });
      };
      const numbers = n as number[];
      if (letter === 'M')
        subpaths.push({ knots: [{ at: [firstOf(numbers), known(numbers[1])], into: null, out: null }], closed: false });
      else if (letter === 'L') to([firstOf(numbers), known(numbers[1])]);
      else if (letter === 'H') to([firstOf(numbers), y]);
      else if (letter === 'V') to([x, firstOf(numbers)]);
      else if (letter === 'C')
        to(
          [known(numbers[4]), known(numbers[5])],
          [firstOf(numbers), known(numbers[1])],
          [known(numbers[2]), known(numbers[3])],
        );
      else if (letter === 'Q') {
        const [cx, cy, ex, ey] = numbers as [number, number, number, number];
        to(
          [ex, ey],
          [x + (2 / 3) * (cx - x), y + (2 / 3) * (cy - y)],
          [ex + (2 / 3) * (cx - ex), ey + (2 / 3) * (cy - ey)],
        );
      } else close(lastOf(subpaths));
    });
  return subpaths;
}

const isSame = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-6;

/** An outline that comes back to where it began has one point there, not two. */
function close(subpath: Subpath): void {
  const [first, last] = [firstOf(subpath.knots), lastOf(subpath.knots)];
  subpath.closed = true;
  if (subpath.knots.length > 1 && isSame(first.at, last.at)) {
    subpath.knots.pop();
    first.into = last.into;
  }
}

const text = (...points: Point[]) => points.map(([x, y]) => `${short(x)} ${short(y)}`).join(' ');
const short = (value: number) => Math.round(value * 1000) / 1000;

export function writePath(subpaths: readonly Subpath[]): string {
  return subpaths
    .map(({ knots, closed }) => {
      const [first, ...rest] = knots as [Knot, ...Knot[]];
      const ways = closed && knots.length > 1 ? [...rest, first] : rest;
      let before = first;
      const parts = ways.map((knot) => {
        const part = segment(before, knot);
        before = knot;
        return part;
      });
      // A straight way back is what closing does by itself.
      if (closed && parts.at(-1)?.startsWith('L')) parts.pop();
      return `M${text(first.at)}${parts.join('')}${closed ? 'Z' : ''}`;
    })
    .join('');
}

const segment = (from: Knot, to: Knot): string =>
  from.out || to.into ? `C${text(from.out ?? from.at, to.into ?? to.at, to.at)}` : `L${text(to.at)}`;

/** The same outline with every point put elsewhere. */
export const mapPath = (subpaths: readonly Subpath[], move: (point: Point) => Point): Subpath[] =>
  subpaths.map(({ knots, closed }) => ({
    closed,
    knots: knots.map(({ at, into, out }) => ({ at: move(at), into: into && move(into), out: out && move(out) })),
  }));

/** A point more in the middle of the way that follows this one; the outline stays as it is (de Casteljau). */
export function splitAfter({ knots, closed }: Subpath, index: number): Subpath {
  const [from, to] = [known(knots[index]), known(knots[(index + 1) % knots.length])];
  const middle = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const fresh = knots.map((knot) => ({ ...knot }));
  if (!from.out && !to.into) {
    fresh.splice(index + 1, 0, { at: middle(from.at, to.at), into: null, out: null });
    return { knots: fresh, closed };
  }
  const [p1, p2] = [from.out ?? from.at, to.into ?? to.at];
  const [a, b, c] = [middle(from.at, p1), middle(p1, p2), middle(p2, to.at)];
  const [into, out] = [middle(a, b), middle(b, c)];
  known(fresh[index]).out = a;
  known(fresh[(index + 1) % knots.length]).into = c;
  fresh.splice(index + 1, 0, { at: middle(into, out), into, out });
  return { knots: fresh, closed };
}

/** Left, top, right and bottom of the outline itself, without the handles beside it. */
export function boundsOf(subpaths: readonly Subpath[]): [number, number, number, number] {
  const places: [number[], number[]] = [[], []];
  for (const { knots, closed } of subpaths) {
    knots.forEach((knot, i) => {
      const next = knots[i + 1] ?? (closed ? firstOf(knots) : null);
      for (const axis of [0, 1] as const) {
        places[axis].push(knot.at[axis]);
        if (next)
          places[axis].push(
            ...turningPlaces(knot.at[axis], (knot.out ?? knot.at)[axis], (next.into ?? next.at)[axis], next.at[axis]),
          );
      }
    });
  }
  return [Math.min(...places[0]), Math.min(...places[1]), Math.max(...places[0]), Math.max(...places[1])].map(
    round,
  ) as [number, number, number, number];
}

/** Where a cubic Bézier turns back along one axis: the roots of its derivative a·t² + b·t + c between 0 and 1. */
function turningPlaces(p0: number, p1: number, p2: number, p3: number): number[] {
  const [a, b, c] = [3 * (-p0 + 3 * p1 - 3 * p2 + p3), 6 * (p0 - 2 * p1 + p2), 3 * (p1 - p0)];
  const root = Math.sqrt(Math.max(b * b - 4 * a * c, 0));
  const times = Math.abs(a) < 1e-9 ? [-c / b] : [(-b + root) / (2 * a), (-b - root) / (2 * a)];
  return times
    .filter((t) => t > 0 && t < 1)
    .map((t) => (1 - t) ** 3 * p0 + 3 * (1 - t) ** 2 * t * p1 + 3 * (1 - t) * t * t * p2 + t ** 3 * p3);
}

/** How many points stand for one curve where an outline is measured. */
const PER_CURVE = 24;

/** Points along an outline: those of its curves that reach farthest are among them, within a thousandth of their size. */
export function pointsAlong(subpaths: readonly Subpath[]): Point[] {
  return subpaths.flatMap(({ knots, closed }) =>
    knots.flatMap((knot, i) => {
      const next = knots[i + 1] ?? (closed ? knots[0] : undefined);
      if (!next || (!knot.out && !next.into)) return [knot.at];
      const [a, b, c, d] = [knot.at, knot.out ?? knot.at, next.into ?? next.at, next.at];
      return Array.from({ length: PER_CURVE }, (_, k): Point => {
        const [t, r] = [k / PER_CURVE, 1 - k / PER_CURVE];
        const along = (axis: 0 | 1) =>
          r ** 3 * a[axis] + 3 * r * r * t * b[axis] + 3 * r * t * t * c[axis] + t ** 3 * d[axis];
        return [along(0), along(1)];
      });
    }),
  );
}
