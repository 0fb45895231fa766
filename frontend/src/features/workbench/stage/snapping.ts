/* Lines to which edges and middles snap. Pure. */
import type { Layer, Pose } from '../../../api/contract';
import { chainTo, matrixOf, type Point } from '../../../shared/geometry/matrix';
import { outlineOf } from '../../../shared/geometry/outlines';
import { known } from '../../../shared/known';
import type { Box } from '../edits';

/** Upright and level lines to which edges and middles snap, in px of the piece. */
export interface Lines {
  x: readonly number[];
  y: readonly number[];
}

/** The lines that were met. */
export interface Guides {
  x?: number;
  y?: number;
}

/** The edges and middles of the piece, the edges of what is safe of it, and of what lies beside the layers. */
export function linesBeside(
  layers: readonly Layer[],
  ids: readonly string[],
  pose: Pose,
  piece: { width: number; height: number },
  safe: Box,
): Lines {
  const chain = chainTo(layers, ids[0] ?? '');
  const parent = chain.at(-2);
  const siblings = (parent?.kind === 'group' ? parent.layers : layers) ?? [];
  const x = [0, piece.width / 2, piece.width, safe.left, safe.right];
  const y = [0, piece.height / 2, piece.height, safe.top, safe.bottom];
  for (const sibling of siblings) {
    if (ids.includes(sibling.id) || !pose[sibling.id] || !Number(known(pose[sibling.id]).opacity)) continue;
    const corners = outlineOf(sibling, known(pose[sibling.id]), matrixOf([...chain.slice(0, -1), sibling], pose));
    for (const [axis, lines] of [
      [0, x],
      [1, y],
    ] as const) {
      lines.push(...edges(corners.map((corner) => corner[axis])));
    }
  }
  return { x, y };
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
): { by: number; line: number } | null {
  let best: { by: number; line: number; off: number } | null = null;
  for (const own of edges(places)) {
    for (const line of lines) {
      const off = Math.abs(own + by - line);
      if (off <= reach && (!best || off < best.off)) best = { by: line - own, line, off };
    }
  }
  return best;
}

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
    const met = grip[axis] ? nearest(axis ? lines.y : lines.x, at, reach) : undefined;
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
