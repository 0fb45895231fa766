/* Layers lined up and spread out: where each has to go, in the px of the piece. Pure. */
import type { Layer, Piece, Pose } from '../../../api/contract';
import { chainTo, matrixOf, type Point } from '../../../shared/geometry/matrix';
import { outlineAround, outlineOf } from '../../../shared/geometry/outlines';
import { round } from '../../../shared/text/sums';
import { safeBox } from './safeArea';
import type { Values } from './values';
import { firstOf, known, lastOf } from '../../../shared/known';

export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** An edge, or the middle, to which layers are lined up. */
export type Line = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom';
export type Axis = 'across' | 'down';

/** The upright box around a layer, in px of the piece. */
export function boxOf(layers: readonly Layer[], pose: Pose, id: string): Box {
  const chain = chainTo(layers, id);
  return boundsOf(outlineOf(lastOf(chain), known(pose[id]), matrixOf(chain, pose)));
}

/** The same in the px of the group around it. */
export function boxInGroup(layer: Layer, pose: Pose): Box {
  return boundsOf(outlineAround(layer, known(pose[layer.id])));
}

/** The upright box around points. */
export function boundsOf(points: readonly Point[]): Box {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return { left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs), bottom: Math.max(...ys) };
}

export const around = (boxes: readonly Box[]): Box => ({
  left: Math.min(...boxes.map((b) => b.left)),
  top: Math.min(...boxes.map((b) => b.top)),
  right: Math.max(...boxes.map((b) => b.right)),
  bottom: Math.max(...boxes.map((b) => b.bottom)),
});

const PLACE: Record<Line, (box: Box) => number> = {
  left: (b) => b.left,
  centre: (b) => (b.left + b.right) / 2,
  right: (b) => b.right,
  top: (b) => b.top,
  middle: (b) => (b.top + b.bottom) / 2,
  bottom: (b) => b.bottom,
};

/** Several layers line up with the box around them; one alone with its group, or with what is safe of the piece. */
export function aligned(piece: Piece, pose: Pose, ids: readonly string[], line: Line): Record<string, Values> {
  const layers = piece.layers ?? [];
  const upright = line === 'left' || line === 'centre' || line === 'right';
  const group = ids.length === 1 ? chainTo(layers, firstOf(ids)).at(-2) : undefined;
  if (group) return inGroup(layers, pose, firstOf(ids), group, line, upright);
  const boxes = ids.map((id) => boxOf(layers, pose, id));
  const goal = PLACE[line](ids.length > 1 ? around(boxes) : safeBox(piece));
  return moves(
    layers,
    pose,
    ids,
    boxes.map((box) => (upright ? [goal - PLACE[line](box), 0] : [0, goal - PLACE[line](box)])),
  );
}

/** Equal gaps between neighbours; the outermost two stay. */
export function distributed(piece: Piece, pose: Pose, ids: readonly string[], axis: Axis): Record<string, Values> {
  const layers = piece.layers ?? [];
  const [low, high]: [keyof Box, keyof Box] = axis === 'across' ? ['left', 'right'] : ['top', 'bottom'];
  const sorted = ids
    .map((id) => ({ id, box: boxOf(layers, pose, id) }))
    .sort((a, b) => a.box[low] + a.box[high] - b.box[low] - b.box[high]);
  const sizes = sorted.reduce((sum, { box }) => sum + box[high] - box[low], 0);
  const [first, last] = [firstOf(sorted).box, lastOf(sorted).box];
  const gap = (last[high] - first[low] - sizes) / (sorted.length - 1);
  let at = first[low];
  const by = sorted.map(({ box }): [number, number] => {
    const shift = at - box[low];
    at += box[high] - box[low] + gap;
    return axis === 'across' ? [shift, 0] : [0, shift];
  });
  return moves(
    layers,
    pose,
    sorted.map(({ id }) => id),
    by,
  );
}

/** On a circle around the middle of all, in the order in which they were chosen, the first at the top. */
export function onCircle(piece: Piece, pose: Pose, ids: readonly string[]): Record<string, Values> {
  const layers = piece.layers ?? [];
  const boxes = ids.map((id) => boxOf(layers, pose, id));
  const all = around(boxes);
  const middles = boxes.map(middleOf);
  const least = (Math.max(...boxes.map(longestOf)) * ids.length) / (2 * Math.PI);
  const radius = Math.max(
    Math.max(all.right - all.left, all.bottom - all.top) / 2 - longestOf(firstOf(boxes)) / 2,
    least,
  );
  const [x, y] = middleOf(all);
  const goals = ids.map((_, i): Point => {
    const turn = (2 * Math.PI * i) / ids.length;
    return [x + radius * Math.sin(turn), y - radius * Math.cos(turn)];
  });
  return toMiddles(layers, pose, ids, middles, goals);
}

const GRID_GAP = 8;

/** In rows of as many as there are rows, or one more, from the top left of all, each in a cell as large as the largest. */
export function inGrid(piece: Piece, pose: Pose, ids: readonly string[]): Record<string, Values> {
  const layers = piece.layers ?? [];
  const boxes = ids.map((id) => boxOf(layers, pose, id));
  const all = around(boxes);
  const columns = Math.ceil(Math.sqrt(ids.length));
  const width = Math.max(...boxes.map((box) => box.right - box.left)) + GRID_GAP;
  const height = Math.max(...boxes.map((box) => box.bottom - box.top)) + GRID_GAP;
  const goals = ids.map((_, i): Point => [
    all.left + ((i % columns) + 0.5) * width - GRID_GAP / 2,
    all.top + (Math.floor(i / columns) + 0.5) * height - GRID_GAP / 2,
  ]);
  return toMiddles(layers, pose, ids, boxes.map(middleOf), goals);
}

const middleOf = (box: Box): Point => [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
const longestOf = (box: Box) => Math.max(box.right - box.left, box.bottom - box.top);

const toMiddles = (
  layers: readonly Layer[],
  pose: Pose,
  ids: readonly string[],
  from: readonly Point[],
  to: readonly Point[],
) =>
  moves(
    layers,
    pose,
    ids,
    from.map(([x, y], i) => [known(to[i])[0] - x, known(to[i])[1] - y]),
  );

/** One layer by itself lines up with its group, along the axes of the group. */
function inGroup(
  layers: readonly Layer[],
  pose: Pose,
  id: string,
  group: Layer,
  line: Line,
  upright: boolean,
): Record<string, Values> {
  const layer = known(chainTo(layers, id).at(-1));
  const outer = {
    left: 0,
    top: 0,
    right: Number(known(pose[group.id]).width),
    bottom: Number(known(pose[group.id]).height),
  };
  const by = PLACE[line](outer) - PLACE[line](boxInGroup(layer, pose));
  const name = upright ? 'x' : 'y';
  return Math.abs(by) > 1e-6 ? { [id]: { [name]: round(Number(known(pose[id])[name]) + by) } } : {};
}

/** Each layer moved by so many px of the piece, as x and y of its own; those that stay are left out. */
export function moves(
  layers: readonly Layer[],
  pose: Pose,
  ids: readonly string[],
  by: readonly (readonly number[])[],
): Record<string, Values> {
  const moved = ids.flatMap((id, i): [string, Values][] => {
    const inverse = matrixOf(chainTo(layers, id), pose, true).inverse();
    const [dx, dy] = by[i] as [number, number];
    const [x, y] = [inverse.a * dx + inverse.c * dy, inverse.b * dx + inverse.d * dy];
    const look = known(pose[id]);
    const values: Values = {};
    if (Math.abs(x) > 1e-6) values.x = round(Number(look.x) + x);
    if (Math.abs(y) > 1e-6) values.y = round(Number(look.y) + y);
    return Object.keys(values).length ? [[id, values]] : [];
  });
  return Object.fromEntries(moved);
}
