/* Where a layer lies in its piece. The same rule as the core's geometry, for overlays and drags. */
import type { Layer, Look, Pose } from '../../api/contract';
import type { Point } from './path';
import { known, lastOf } from '../known';

export type { Point };

/** From the layer's own px to those around it. */
export function localMatrix(look: Look): DOMMatrix {
  const n = (name: string) => Number(look[name]);
  const [px, py] = [n('pivot_x') * n('width'), n('pivot_y') * n('height')];
  return new DOMMatrix()
    .translateSelf(n('x') + px, n('y') + py)
    .rotateSelf(n('rotation'))
    .scaleSelf(n('scale_x'), n('scale_y'))
    .multiplySelf(inSpace(n('rotation_x'), n('rotation_y'), n('perspective')))
    .skewXSelf(n('skew_x'))
    .skewYSelf(n('skew_y'))
    .translateSelf(-px, -py);
}

/** A turn out of the plane, seen flat: z is left out of it, and told by w alone. */
function inSpace(about_x: number, about_y: number, perspective: number): DOMMatrix {
  if (!about_x && !about_y) return new DOMMatrix();
  const [a, b] = [about_x, about_y].map((degrees) => (degrees * Math.PI) / 180) as [number, number];
  const eye = perspective ? -1 / Math.max(perspective, 1) : 0;
  const x = [Math.cos(b), Math.sin(a) * Math.sin(b), 0, -Math.cos(a) * Math.sin(b) * eye];
  const y = [0, Math.cos(a), 0, Math.sin(a) * eye];
  return new DOMMatrix([...x, ...y, 0, 0, 1, 0, 0, 0, 0, 1]);
}

/** What is this near to the eye or behind it is cut off there, as in the core. */
const NEAREST = 1e-3;

/** Where a point lies under a matrix, seen in perspective. */
export function through(matrix: DOMMatrix, [x, y]: Point): Point {
  const at = matrix.transformPoint({ x, y });
  const depth = Math.max(at.w, NEAREST);
  return [at.x / depth, at.y / depth];
}

/** The layers from the outermost group to the one with this id. */
export function chainTo<L extends { id: string; layers?: unknown }>(layers: readonly L[], id: string): L[] {
  for (const layer of layers) {
    if (layer.id === id) return [layer];
    const inner = chainTo((layer.layers as readonly L[] | null | undefined) ?? [], id);
    if (inner.length) return [layer, ...inner];
  }
  return [];
}

/** From the px of the last layer of the chain to those of the piece; of its parent with `parent`. */
export function matrixOf(chain: readonly Layer[], pose: Pose, parent = false): DOMMatrix {
  const through = parent ? chain.slice(0, -1) : chain;
  return through.reduce((matrix, layer) => matrix.multiplySelf(localMatrix(known(pose[layer.id]))), new DOMMatrix());
}

/** The corners of the layer's box in the piece's px, clockwise from the top left. */
export function cornersOf(chain: readonly Layer[], pose: Pose): Point[] {
  const look = known(pose[lastOf(chain).id]);
  const [w, h] = [Number(look.width), Number(look.height)];
  const matrix = matrixOf(chain, pose);
  return (
    [
      [0, 0],
      [w, 0],
      [w, h],
      [0, h],
    ] as Point[]
  ).map((corner) => through(matrix, corner));
}

/** What turns, stretches or bends a layer, with the values that do nothing. */
export const TRANSFORMS: readonly [string, number][] = [
  ['rotation', 0],
  ['scale_x', 1],
  ['scale_y', 1],
  ['skew_x', 0],
  ['skew_y', 0],
  ['rotation_x', 0],
  ['rotation_y', 0],
];
