import type { PointerEvent } from 'react';
import { chainTo, matrixOf, through, type Point } from '../../../shared/geometry/matrix';
import type { Layer, Pose, Value } from '../../../api/contract';
import { pulling } from '../../../shared/ui/pulling';
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
  const {
    shown: pulled,
    held,
    hold,
  } = useHeld<{ shape: Shape; moved: boolean }>({
    giveUp: () => {
      hold(null);
      preview(value);
    },
  });
  const shown = pulled?.shape ?? value;
  const preview = (shape: Shape) => {
    const { scene } = over;
    const layer = scene?.shown.get(over.id);
    if (!scene || !layer) return;
    const [property, next] = written(shape);
    layer.look[property] = next;
    for (const write of scene.writersOf(layer, [property])) write(layer, layer.look);
  };
  const drag = (handle: Handle) =>
    pulling<SVGElement>({
      press: (event) => {
        event.stopPropagation();
        hold({ shape: shown, moved: false });
      },
      move: (event) => {
        const before = held();
        if (!before) return;
        const next = pull(before.shape, handle, through(matrix.inverse(), over.pointAt(event)), event);
        hold({ shape: next, moved: true });
        preview(next);
      },
      release: () => {
        const after = held();
        // A click alone changes nothing.
        if (!after?.moved) hold(null);
        else void commit(after.shape).finally(() => held() === after && hold(null));
      },
    });
  return { shown, drag };
}

/** From the layer's px to those of the piece. */
export const ownMatrix = ({ layers, pose, id }: OverLayer) => matrixOf(chainTo(layers, id), pose);

export function onScreen(matrix: DOMMatrix, zoom: number, at: Point): Point {
  const [x, y] = through(matrix, at);
  return [x * zoom, y * zoom];
}
