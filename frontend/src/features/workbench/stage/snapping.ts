/* Lines to which edges and middles snap. Pure. */
import type { Layer, Piece, Pose } from '../../../api/contract';
import { chainTo, matrixOf, type Point } from '../../../shared/geometry/matrix';
import { outlineOf } from '../../../shared/geometry/outlines';
import { known } from '../../../shared/known';
import { boundsOf, guidesOf, safeBox, type Box } from '../edits';
import type { Gap } from './gaps';

/** What a layer that is pulled snaps to, in px of the piece. */
export interface Lines {
  /** Upright and level lines, for edges and middles. */
  x: readonly number[];
  y: readonly number[];
  /** How far apart the lines of a grid are, for edges. */
  grid: number | null;
  /** What lies beside it, for equal gaps. */
  boxes: readonly Box[];
}

/** What was met: lines, and gaps that are equal. */
export interface Guides {
  x?: number;
  y?: number;
  gaps?: readonly Gap[];
}

/** The edges and middles of the piece, the edges of what is safe of it, lines of one's own, and what lies beside the
 * layers; on a sheet that is higher than the piece, down to its end. */
export function linesBeside(
  layers: readonly Layer[],
  ids: readonly string[],
  pose: Pose,
  sheet: { width: number; height: number },
  piece: Piece,
): Lines {
  const safe = safeBox(piece);
  const own = guidesOf(piece);
  const chain = chainTo(layers, ids[0] ?? '');
  const parent = chain.at(-2);
  const siblings = (parent?.kind === 'group' ? parent.layers : layers) ?? [];
  const x = [0, sheet.width / 2, sheet.width, safe.left, safe.right, ...own.upright];
  const y = [0, sheet.height / 2, sheet.height, safe.top, safe.bottom, ...own.level];
  const boxes: Box[] = [];
  for (const sibling of siblings) {
    if (ids.includes(sibling.id) || !pose[sibling.id] || !Number(known(pose[sibling.id]).opacity)) continue;
    const corners = outlineOf(sibling, known(pose[sibling.id]), matrixOf([...chain.slice(0, -1), sibling], pose));
    const box = boundsOf(corners);
    x.push(...edges([box.left, box.right]));
    y.push(...edges([box.top, box.bottom]));
    boxes.push(box);
  }
  return { x, y, grid: own.grid, boxes };
}

/** The edges of what has its corners there, and its middle. */
function edges(places: readonly number[]): [number, number, number] {
  const [low, high] = [Math.min(...places), Math.max(...places)];
  return [low, (low + high) / 2, high];
}

/** The nearest line that an edge or the middle comes to lie on. */
export function snapped(
  places: readonly number[],
  by: number,
  lines: readonly number[],
  reach: number,
  grid: number | null,
): { by: number; line: number } | null {
  let best: { by: number; line: number; off: number } | null = null;
  for (const [index, own] of edges(places).entries()) {
    // A middle is nowhere that a grid could say.
    for (const line of index === 1 ? lines : withGrid(lines, own + by, grid)) {
      const off = Math.abs(own + by - line);
      if (off <= reach && (!best || off < best.off)) best = { by: line - own, line, off };
    }
  }
  return best;
}

const withGrid = (lines: readonly number[], at: number, grid: number | null) =>
  grid === null ? lines : [...lines, Math.round(at / grid) * grid];

/** Where the pointer would be if the edge that is pulled lay on the line next to it; `edge` is where it was taken hold of. */
export function edgeOnLine(
  edge: Point,
  grip: readonly [number, number],
  from: Point,
  to: Point,
  lines: Lines,
  reach: number,
): { place: Point; guides: Guides } {
  const place: Point = [...to];
  const guides: Guides = {};
  for (const axis of [0, 1] as const) {
    const at = edge[axis] + to[axis] - from[axis];
    const met = grip[axis] ? nearest(withGrid(axis ? lines.y : lines.x, at, lines.grid), at, reach) : undefined;
    if (met === undefined) continue;
    place[axis] = met - edge[axis] + from[axis];
    guides[axis ? 'y' : 'x'] = met;
  }
  return { place, guides };
}

export const nearest = (lines: readonly number[], at: number, reach: number): number | undefined =>
  lines
    .filter((line) => Math.abs(line - at) <= reach)
    .reduce<number | undefined>(
      (best, line) => (best === undefined || Math.abs(line - at) < Math.abs(best - at) ? line : best),
      undefined,
    );
