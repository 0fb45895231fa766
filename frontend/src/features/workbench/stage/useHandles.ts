import type { PointerEvent } from 'react';
import { chainTo, matrixOf, through, type Point } from '../../../shared/geometry/matrix';
import type { Layer, Pose, Value } from '../../../api/contract';
import { pulling } from '../../../shared/ui/pulling';
import { useHeld } from '../../../shared/ui/useHeld';
import { known } from '../../../shared/known';
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
  /** Where the handle is: held beside its middle, it goes as far as the pointer and does not jump to it. */
  at?: (shape: Shape, handle: Handle) => Point | undefined;
  /** What pressing it does besides. */
  press?: (handle: Handle, event: PointerEvent) => void;
  pull: (shape: Shape, handle: Handle, to: Point, event: PointerEvent) => Shape;
  commit: (shape: Shape) => Promise<unknown>;
}

/** Handles of a shape, pulled: seen on the stage at once, an edit when let go. */
export function useHandles<Handle, Shape>({
  over,
  matrix,
  value,
  written,
  at,
  press,
  pull,
  commit,
}: Options<Handle, Shape>) {
  const {
    shown: pulled,
    held,
    hold,
  } = useHeld<{ shape: Shape; moved: boolean; beside: Point }>({
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
        press?.(handle, event);
        const [x, y] = through(matrix.inverse(), over.pointAt(event));
        const [left, top] = at?.(shown, handle) ?? [x, y];
        hold({ shape: shown, moved: false, beside: [left - x, top - y] });
      },
      move: (event) => {
        const before = held();
        if (!before) return;
        const [x, y] = through(matrix.inverse(), over.pointAt(event));
        const next = pull(before.shape, handle, [x + before.beside[0], y + before.beside[1]], event);
        hold({ ...before, shape: next, moved: true });
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

/** From the px in which a path is written to those of the piece. */
export function pathMatrix(layers: readonly Layer[], pose: Pose, id: string): DOMMatrix {
  const look = known(pose[id]);
  const [across, down] = [Number(look.width) / Number(look.view_width), Number(look.height) / Number(look.view_height)];
  return matrixOf(chainTo(layers, id), pose).scale(across, down);
}

export function onScreen(matrix: DOMMatrix, zoom: number, at: Point): Point {
  const [x, y] = through(matrix, at);
  return [x * zoom, y * zoom];
}
