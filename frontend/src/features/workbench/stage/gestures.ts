/* What a drag on the pose makes of layers: moved, resized, turned. Pure. */
import type { Layer, Look, Pose } from '../../../api/contract';
import { chainTo, localMatrix, matrixOf, through, type Point } from '../../../shared/geometry/matrix';
import { outlineOf } from '../../../shared/geometry/outlines';
import { round } from '../../../shared/text/sums';
import { firstOf, known, lastOf } from '../../../shared/known';
import { severalDragged } from './several';
import { boundsOf } from '../edits';
import { equalGaps, type Gap } from './gaps';
import { edgeOnLine, nearest, snapped, type Guides, type Lines } from './snapping';

/** Where a layer is held: inside, above its top edge, at its pivot, or at a corner or side (−1, 0 or 1 along its axes). */
export type Grip = 'move' | 'turn' | 'pivot' | readonly [-1 | 0 | 1, -1 | 0 | 1];

export interface Part {
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

export type Values = Record<string, number>;

export interface Dragged {
  looks: Record<string, Values>;
  /** The lines that were met. */
  guides: Guides;
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
  if (held.grip === 'pivot') return { looks: { [part.id]: pivoted(part, to, keys, reach) }, guides: {} };
  if (held.parts.length > 1) return severalDragged(held, held.grip, to, keys, lines, reach);
  if (held.grip === 'turn') return { looks: { [part.id]: turned(part, held.from, to, keys) }, guides: {} };
  const { place, guides } =
    keys.ctrlKey || keys.shiftKey ? { place: to, guides: {} } : toLine(part, held, to, lines, reach);
  return { looks: { [part.id]: resized(part, held.from, held.grip, place, keys, guides) }, guides };
}

/** Where the pointer would be if the edge that is pulled lay on the line next to it; only of what stands upright. */
function toLine({ look, parent }: Part, { from, grip }: Held, to: Point, lines: Lines, reach: number) {
  const own = parent.multiply(localMatrix(look));
  const upright = Math.abs(own.b) + Math.abs(own.c) < 1e-9 && own.a > 0 && own.d > 0;
  if (!upright || typeof grip === 'string') return { place: to, guides: {} };
  const corner = through(own, [grip[0] > 0 ? Number(look.width) : 0, grip[1] > 0 ? Number(look.height) : 0]);
  return edgeOnLine(corner, grip, from, to, lines, reach);
}

/** Shares of the box at which a pivot is met: edges and middle. */
const MET = [0, 0.5, 1];

/** Its layer stays where it is; that is seen to where it is written. */
function pivoted({ look, parent }: Part, to: Point, keys: Keys, reach: number): Values {
  const at = through(parent.multiply(localMatrix(look)).inverse(), to);
  const share = (axis: 0 | 1, size: number) => {
    const own = at[axis] / (size || 1);
    return (keys.ctrlKey ? undefined : nearest(MET, own, (reach * 1.5) / (size || 1))) ?? Math.round(own * 1000) / 1000;
  };
  return { pivot_x: share(0, Number(look.width)), pivot_y: share(1, Number(look.height)) };
}

/** px that make no difference. */
const SAME = 1e-6;

/** Shift keeps to one axis, Ctrl leaves the lines alone. */
function moved({ parts, from, corners }: Held, to: Point, keys: Keys, lines: Lines, reach: number): Dragged {
  const by: Point = [to[0] - from[0], to[1] - from[1]];
  if (keys.shiftKey) by[Math.abs(by[0]) > Math.abs(by[1]) ? 1 : 0] = 0;
  const box = boundsOf(corners);
  const guides: Guides = {};
  const gaps: Gap[] = [];
  const exact = { x: false, y: false };
  for (const axis of keys.ctrlKey ? [] : ([0, 1] as const)) {
    const name = axis ? 'y' : 'x';
    if (by[axis] === 0) continue;
    const ends = axis ? [box.top, box.bottom] : [box.left, box.right];
    const line = snapped(ends, by[axis], lines[name], reach, lines.grid);
    const equal = equalGaps(lines.boxes, box, axis, by, reach);
    const off = (met: { by: number } | null) => (met ? Math.abs(met.by - by[axis]) : Infinity);
    const met = off(equal) < off(line) ? equal : line;
    if (!met) continue;
    if (line && Math.abs(line.by - met.by) < SAME) guides[name] = line.line;
    if (equal && Math.abs(equal.by - met.by) < SAME) gaps.push(...equal.gaps);
    by[axis] = met.by;
    exact[name] = true;
  }
  if (gaps.length) guides.gaps = gaps;
  const looks = parts.map(({ id, look, parent }): [string, Values] => {
    // In a group that is turned or scaled whole px of its own would lead beside the line that was met.
    const upright = parent.a === 1 && parent.d === 1 && !parent.b && !parent.c;
    const whole = (n: number, met: boolean) => (!met && (upright || (!exact.x && !exact.y)) ? Math.round(n) : round(n));
    const inverse = parent.inverse();
    const [dx, dy] = [inverse.a * by[0] + inverse.c * by[1], inverse.b * by[0] + inverse.d * by[1]];
    return [id, { x: round(Number(look.x) + whole(dx, exact.x)), y: round(Number(look.y) + whole(dy, exact.y)) }];
  });
  return { looks: Object.fromEntries(looks), guides };
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

/** Shift keeps the proportions, Alt the middle; past the other side it is mirrored. Groups are scaled, since their size
 * alone moves nothing in them. On a line that was met it stays exactly, elsewhere in whole px. */
function resized(
  { kind, look, parent }: Part,
  from: Point,
  [hx, hy]: readonly [number, number],
  to: Point,
  keys: Keys,
  met: Guides,
): Values {
  const [w, h] = [Number(look.width), Number(look.height)];
  const own = parent.multiply(localMatrix(look)).inverse();
  const [start, now] = [from, to].map((point) => through(own, point)) as [Point, Point];
  const twice = keys.altKey ? 2 : 1;
  const across = w + hx * twice * (now[0] - start[0]);
  const down = h + hy * twice * (now[1] - start[1]);
  let [width, height] = [Math.max(Math.abs(across), LEAST), Math.max(Math.abs(down), LEAST)];
  if (keys.shiftKey && w > 0 && h > 0) {
    const factor = hx && hy ? Math.max(width / w, height / h) : hx ? width / w : height / h;
    [width, height] = [w * factor, h * factor];
  }
  const [flipX, flipY] = [across < 0 ? -1 : 1, down < 0 ? -1 : 1];
  const scaled = kind === 'group' && look.layout === 'none';
  const size: Values = scaled
    ? {
        scale_x: round((Number(look.scale_x) * flipX * width) / (w || 1)),
        scale_y: round((Number(look.scale_y) * flipY * height) / (h || 1)),
      }
    : {
        width: met.x === undefined ? Math.round(width) : round(width),
        height: met.y === undefined ? Math.round(height) : round(height),
        scale_x: Number(look.scale_x) * flipX,
        scale_y: Number(look.scale_y) * flipY,
      };
  // What lies opposite stays where it is.
  const fixed = keys.altKey ? [0.5, 0.5] : [(1 - hx) / 2, (1 - hy) / 2];
  const place = (shown: Look) =>
    through(localMatrix(shown), [firstOf(fixed) * Number(shown.width), known(fixed[1]) * Number(shown.height)]);
  const [before, after] = [place(look), place({ ...look, ...size })];
  return { ...size, x: round(Number(look.x) + before[0] - after[0]), y: round(Number(look.y) + before[1] - after[1]) };
}
