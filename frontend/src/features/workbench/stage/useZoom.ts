import { useCallback, useEffect, useMemo, useState, type RefObject } from 'react';
import type { Box } from '../edits';
import { useBench } from '../bench';
import { remember, remembered } from '../remembered';
import { fit } from './useSize';
import { known } from '../../../shared/known';

interface Size {
  width: number;
  height: number;
}
interface Held {
  zoom: number;
  x: number;
  y: number;
}

const [LEAST, MOST] = [0.05, 32];
const clamp = (zoom: number) => Math.min(Math.max(zoom, LEAST), MOST);

/** How large the piece is shown, and how far from the middle of the stage: it fits until it is told otherwise.
 *
 * Of a sheet that is longer than its screen the first screen fits. */
export function useZoom(
  name: 'pose' | 'loop',
  stage: RefObject<HTMLElement | null>,
  sheet: RefObject<HTMLElement | null>,
  size: Size,
  piece: Size,
  screenHeight = piece.height,
) {
  const id = useBench((b) => b.id);
  const [held, setHeld] = useState(() => remembered<Held>(name, id));
  useEffect(() => remember(name, id, held), [name, id, held]);
  const fitting = fit(size, { width: piece.width, height: screenHeight });
  const top = ((piece.height - screenHeight) / 2) * fitting;
  const { zoom, x, y } = held ?? { zoom: fitting, x: 0, y: top };
  const { width, height } = size;
  const { width: pieceWidth, height: pieceHeight } = piece;
  const change = useCallback(
    (to: (now: Held) => Held) => setHeld((before) => to(before ?? { zoom: fitting, x: 0, y: top })),
    [fitting, top],
  );
  useWheel(stage, sheet, change);
  // The same object until it changes: what it is given to is not drawn anew while layers are dragged.
  return useMemo(
    () => ({
      zoom,
      fits: held === null,
      offset: { x, y },
      pan: (dx: number, dy: number) => change((now) => ({ ...now, x: now.x + dx, y: now.y + dy })),
      toFit: () => setHeld(null),
      toSize: () => setHeld({ zoom: 1, x: 0, y: 0 }),
      to: (wanted: number) => setHeld({ zoom: clamp(wanted), x: 0, y: 0 }),
      toBox: (box: Box) => setHeld(showing(box, { width, height }, { width: pieceWidth, height: pieceHeight })),
      /** Around the middle of the stage. */
      by: (factor: number) => change((now) => grownAround(now, factor, -now.x, -now.y)),
    }),
    [zoom, held, x, y, change, width, height, pieceWidth, pieceHeight],
  );
}

/** Larger or smaller around a place that stays where it is; in px on the screen from the middle of the piece. */
function grownAround(now: Held, factor: number, dx: number, dy: number): Held {
  const zoom = clamp(now.zoom * factor);
  const left = 1 - zoom / now.zoom;
  return { zoom, x: now.x + dx * left, y: now.y + dy * left };
}

/** A box of the piece, large in the middle of the stage, with some room around it. */
function showing(box: Box, stage: Size, piece: Size): Held {
  const across = (stage.width - 120) / Math.max(box.right - box.left, 1);
  const down = (stage.height - 150) / Math.max(box.bottom - box.top, 1);
  const zoom = clamp(Math.min(across, down, 12));
  const [x, y] = [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
  return { zoom, x: (piece.width / 2 - x) * zoom, y: (piece.height / 2 - y) * zoom };
}

/** The wheel moves the piece; with Ctrl it makes it larger around the pointer. */
function useWheel(
  stage: RefObject<HTMLElement | null>,
  sheet: RefObject<HTMLElement | null>,
  change: (to: (now: Held) => Held) => void,
): void {
  useEffect(() => {
    const element = known(stage.current);
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      if (!event.ctrlKey) return change((now) => ({ ...now, x: now.x - event.deltaX, y: now.y - event.deltaY }));
      const box = known(sheet.current).getBoundingClientRect();
      const [dx, dy] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
      change((now) => grownAround(now, Math.exp(-event.deltaY * 0.003), dx, dy));
    };
    // React listens passively to wheels, which could not be kept from the page.
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [stage, sheet, change]);
}

export type Zoom = ReturnType<typeof useZoom>;
