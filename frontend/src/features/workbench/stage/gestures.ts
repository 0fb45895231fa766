/* What a drag on the pose makes of layers: moved, resized, turned. Pure. */
import type { Layer, Look, Pose } from '../../../api/contract';
import { chainTo, localMatrix, matrixOf, through, type Point } from '../../../shared/geometry/matrix';
import { outlineOf } from '../../../shared/geometry/outlines';
import type { Box } from '../edits';
import { round } from '../../../shared/text/sums';
import { firstOf, known, lastOf } from '../../../shared/known';

/** Where a layer is held: inside, above its top edge, or at a corner or side (−1, 0 or 1 along its axes). */
export type Grip = 'move' | 'turn' | readonly [-1 | 0 | 1, -1 | 0 | 1];

interface Part {
  id: string;
  kind: Layer['kind'];
  look: Look;
  /** From the px of what surrounds the layer to those of the piece. */
  parent: DOMMatrix;
}

export interface Held {
  grip: Grip;
  /** The pointer at the beginning, in px of the piece. */
  from: Point;
  /** The corners of all that is held at the beginning, in px of the piece. */
  corners: readonly Point[];
  parts: readonly Part[];
}

export interface Keys {
  shiftKey: boolean;
  altKey: boolean;
  ctrlKey: boolean;
}

/** Upright and level lines to which edges and middles snap, in px of the piece. */
export interface Lines {
  x: readonly number[];
  y: readonly number[];
}

export type Values = Record<string, number>;

export interface Dragged {
  looks: Record<string, Values>;
  /** The lines that were met. */
  guides: { x?: number; y?: number };
}

const LEAST = 1;
const TURN_STEP = 15;

/** Takes hold of layers as they lie in the pose. */
export function holdLayers(
  layers: readonly Layer[],
  pose: Pose,
  ids: readonly string[],
  grip: Grip,
  from: Point,
): Held {
  const chains = ids.map((id) => chainTo(layers, id));
  const parts = chains.map((chain) => ({
    id: lastOf(chain).id,
    kind: lastOf(chain).kind,
    look: known(pose[lastOf(chain).id]),
    parent: matrixOf(chain, pose, true),
  }));
  return {
    grip,
    from,
    corners: chains.flatMap((chain) => outlineOf(lastOf(chain), known(pose[lastOf(chain).id]), matrixOf(chain, pose))),
    parts,
  };
}

export function dragged(held: Held, to: Point, keys: Keys, lines: Lines, reach: number): Dragged {
  if (held.grip === 'move') return moved(held, to, keys, lines, reach);
  const part = firstOf(held.parts);
  const values =
    held.grip === 'turn' ? turned(part, held.from, to, keys) : resized(part, held.from, held.grip, to, keys);
  return { looks: { [part.id]: values }, guides: {} };
}

/** Shift keeps to one axis, Ctrl leaves the lines alone. */
function moved({ parts, from, corners }: Held, to: Point, keys: Keys, lines: Lines, reach: number): Dragged {
  const by: Point = [to[0] - from[0], to[1] - from[1]];
  if (keys.shiftKey) by[Math.abs(by[0]) > Math.abs(by[1]) ? 1 : 0] = 0;
  const guides: Dragged['guides'] = {};
  for (const axis of keys.ctrlKey ? [] : ([0, 1] as const)) {
    const met =
      by[axis] === 0
        ? null
        : snapped(
            corners.map((corner) => corner[axis]),
            by[axis],
            axis ? lines.y : lines.x,
            reach,
          );
    if (!met) continue;
    by[axis] = met.by;
    guides[axis ? 'y' : 'x'] = met.line;
  }
  const looks = parts.map(({ id, look, parent }): [string, Values] => {
    // In a group that is turned or scaled whole px of its own would lead beside the line that was met.
    const upright = parent.a === 1 && parent.d === 1 && !parent.b && !parent.c;
    const whole = (n: number, snappedTo: number | undefined) =>
      snappedTo === undefined && (upright || (guides.x === undefined && guides.y === undefined))
        ? Math.round(n)
        : round(n);
    const inverse = parent.inverse();
    const [dx, dy] = [inverse.a * by[0] + inverse.c * by[1], inverse.b * by[0] + inverse.d * by[1]];
    return [id, { x: round(Number(look.x) + whole(dx, guides.x)), y: round(Number(look.y) + whole(dy, guides.y)) }];
  });
  return { looks: Object.fromEntries(looks), guides };
}

/** The edges of what has its corners there, and its middle. */
function edges(places: readonly number[]): [number, number, number] {
  const [low, high] = [Math.min(...places), Math.max(...places)];
  return [low, (low + high) / 2, high];
}

/** The nearest line that an edge or the middle comes to lie on. */
function snapped(
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

/** Shift turns in steps of 15°. */
function turned({ look, parent }: Part, from: Point, to: Point, keys: Keys): Values {
  const [x, y] = [
    Number(look.x) + Number(look.pivot_x) * Number(look.width),
    Number(look.y) + Number(look.pivot_y) * Number(look.height),
  ];
  const inverse = parent.inverse();
  const angle = (point: Point) => {
    const at = through(inverse, point);
    return (Math.atan2(at[1] - y, at[0] - x) * 180) / Math.PI;
  };
  // The shorter way round, so that a whole turn is not made by passing a side.
  const by = ((((angle(to) - angle(from) + 180) % 360) + 360) % 360) - 180;
  const rotation = Number(look.rotation) + by;
  return { rotation: keys.shiftKey ? Math.round(rotation / TURN_STEP) * TURN_STEP : Math.round(rotation) };
}

/** Shift keeps the proportions, Alt the middle. Groups are scaled, since their size alone moves nothing in them. */
function resized(
  { kind, look, parent }: Part,
  from: Point,
  [hx, hy]: readonly [number, number],
  to: Point,
  keys: Keys,
): Values {
  const [w, h] = [Number(look.width), Number(look.height)];
  const own = parent.multiply(localMatrix(look)).inverse();
  const [start, now] = [from, to].map((point) => through(own, point)) as [Point, Point];
  const twice = keys.altKey ? 2 : 1;
  let width = Math.max(w + hx * twice * (now[0] - start[0]), LEAST);
  let height = Math.max(h + hy * twice * (now[1] - start[1]), LEAST);
  if (keys.shiftKey && w > 0 && h > 0) {
    const factor = hx && hy ? Math.max(width / w, height / h) : hx ? width / w : height / h;
    [width, height] = [w * factor, h * factor];
  }
  const scaled = kind === 'group' && look.layout === 'none';
  const size: Values = scaled
    ? {
        scale_x: round((Number(look.scale_x) * width) / (w || 1)),
        scale_y: round((Number(look.scale_y) * height) / (h || 1)),
      }
    : { width: Math.round(width), height: Math.round(height) };
  // What lies opposite stays where it is.
  const fixed = keys.altKey ? [0.5, 0.5] : [(1 - hx) / 2, (1 - hy) / 2];
  const place = (shown: Look) =>
    through(localMatrix(shown), [firstOf(fixed) * Number(shown.width), known(fixed[1]) * Number(shown.height)]);
  const [before, after] = [place(look), place({ ...look, ...size })];
  return { ...size, x: round(Number(look.x) + before[0] - after[0]), y: round(Number(look.y) + before[1] - after[1]) };
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
