import type { PointerEvent } from 'react';
import { chainTo, matrixOf, type Point } from '../../../shared/geometry/matrix';
import type { Layer, Pose, Value } from '../../../api/answers';
import { useHeld } from '../../../shared/ui/useHeld';
import type { Scene } from '../../player';

/** What lies over the stage and belongs to one layer. */
export interface OverLayer {
  id: string;
  layers: readonly Layer[];
  pose: Pose;
  zoom: number;
  /** From the pointer to px of the piece. */
  pointAt: (event: PointerEvent) => Point;
  scene: Scene | null;
}

interface Options<Handle, Shape> {
  over: OverLayer;
  /** From the px in which handles lie to those of the piece. */
  matrix: DOMMatrix;
  value: Shape;
  /** The property that shows the shape, and its value. */
  written: (shape: Shape) => [property: string, value: Value];
  pull: (shape: Shape, handle: Handle, to: Point, event: PointerEvent) => Shape;
  commit: (shape: Shape) => Promise<unknown>;
}

/** Handles of a shape, pulled: seen on the stage at once, an edit when let go. */
export function useHandles<Handle, Shape>({ over, matrix, value, written, pull, commit }: Options<Handle, Shape>) {
  const { shown: pulled, held, hold } = useHeld<{ shape: Shape }>();
  const shown = pulled?.shape ?? value;
  const preview = (shape: Shape) => {
    const { scene } = over;
    const layer = scene?.shown.get(over.id);
    if (!scene || !layer) return;
    const [property, next] = written(shape);
    layer.look[property] = next;
    for (const write of scene.writersOf(layer, [property])) write(layer, layer.look);
  };
  const drag = (handle: Handle) => ({
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      hold({ shape: shown });
    },
    onPointerMove: (event: PointerEvent) => {
      const before = held();
      if (!before || event.buttons !== 1) return;
      const [x, y] = over.pointAt(event);
      const at = matrix.inverse().transformPoint({ x, y });
      const next = pull(before.shape, handle, [at.x, at.y], event);
      hold({ shape: next });
      preview(next);
    },
    onPointerUp: () => {
      const after = held();
      if (after) void commit(after.shape).finally(() => hold(null));
    },
  });
  return { shown, drag };
}

/** From the layer's px to those of the piece. */
export const ownMatrix = ({ layers, pose, id }: OverLayer) => matrixOf(chainTo(layers, id), pose);

export function onScreen(matrix: DOMMatrix, zoom: number, [x, y]: Point): Point {
  const at = matrix.transformPoint({ x, y });
  return [at.x * zoom, at.y * zoom];
}
