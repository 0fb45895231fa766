/* Points around layers. Beside the matrices, since what only plays needs no paths. */
import type { Layer, Look } from '../../api/contract';
import { textOf } from '../text/values';
import { localMatrix, through, TRANSFORMS, type Point } from './matrix';
import { pointsAlong, readPath } from './path';

/** Points around the outline of a layer in its own px: of a path along it, of all else its corners. */
function ownOutline(layer: Layer, look: Look): Point[] {
  const [w, h] = [Number(look.width), Number(look.height)];
  if (layer.kind !== 'path')
    return [
      [0, 0],
      [w, 0],
      [w, h],
      [0, h],
    ];
  const [across, down] = [w / Number(look.view_width), h / Number(look.view_height)];
  return pointsAlong(readPath(textOf(look.path))).map(([x, y]) => [x * across, y * down]);
}

/** The same under a matrix. */
export const outlineOf = (layer: Layer, look: Look, matrix: DOMMatrix): Point[] =>
  ownOutline(layer, look).map((point) => through(matrix, point));

/** The same in the px of what is around the layer; most layers only stand somewhere. */
export function outlineAround(layer: Layer, look: Look): Point[] {
  const isUpright = TRANSFORMS.every(([name, rest]) => Number(look[name] ?? rest) === rest);
  if (!isUpright) return outlineOf(layer, look, localMatrix(look));
  return ownOutline(layer, look).map(([x, y]) => [x + Number(look.x), y + Number(look.y)]);
}
