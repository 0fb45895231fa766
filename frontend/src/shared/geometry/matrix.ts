/* Where a layer lies in its piece. The same rule as the core's geometry, for overlays and drags. */
import type { Layer, Look, Pose } from '../../api/answers';

export type Point = [number, number];

/** From the layer's own px to those around it. */
export function localMatrix(look: Look): DOMMatrix {
  const n = (name: string) => Number(look[name]);
  const [px, py] = [n('pivot_x') * n('width'), n('pivot_y') * n('height')];
  return new DOMMatrix()
    .translateSelf(n('x') + px, n('y') + py)
    .rotateSelf(n('rotation'))
    .scaleSelf(n('scale_x'), n('scale_y'))
    .skewXSelf(n('skew_x'))
    .skewYSelf(n('skew_y'))
    .translateSelf(-px, -py);
}

/** The layers from the outermost group to the one with this id. */
export function chainTo(layers: readonly Layer[], id: string): Layer[] {
  for (const layer of layers) {
    if (layer.id === id) return [layer];
    const inner = layer.kind === 'group' ? chainTo(layer.layers ?? [], id) : [];
    if (inner.length) return [layer, ...inner];
  }
  return [];
}

/** From the px of the last layer of the chain to those of the piece; of its parent with `parent`. */
export function matrixOf(chain: readonly Layer[], pose: Pose, parent = false): DOMMatrix {
  const through = parent ? chain.slice(0, -1) : chain;
  return through.reduce((matrix, layer) => matrix.multiplySelf(localMatrix(pose[layer.id]!)), new DOMMatrix());
}

/** The corners of the layer's box in the piece's px, clockwise from the top left. */
export function cornersOf(chain: readonly Layer[], pose: Pose): Point[] {
  const look = pose[chain.at(-1)!.id]!;
  const [w, h] = [Number(look.width), Number(look.height)];
  const matrix = matrixOf(chain, pose);
  return ([[0, 0], [w, 0], [w, h], [0, h]] as Point[]).map(([x, y]) => {
    const { x: px, y: py } = matrix.transformPoint({ x, y });
    return [px, py];
  });
}
