import { useCallback, useEffect, useMemo, useState, type RefObject } from 'react';
import type { Box } from '../edits';
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

/** How large the piece is shown, and how far from the middle of the stage: it fits until it is told otherwise. */
export function useZoom(
  stage: RefObject<HTMLElement | null>,
  sheet: RefObject<HTMLElement | null>,
  size: Size,
  piece: Size,
) {
  const [held, setHeld] = useState<Held | null>(null);
  const fitting = fit(size, piece);
  const { zoom, x, y } = held ?? { zoom: fitting, x: 0, y: 0 };
  const { width, height } = size;
  const { width: pieceWidth, height: pieceHeight } = piece;

  /** Larger or smaller around a place on the screen, which stays where it is. */
  const around = useCallback(
    (factor: number, clientX: number, clientY: number) => {
      const box = known(sheet.current).getBoundingClientRect();
      setHeld((before) => {
        const now = before ?? { zoom: fitting, x: 0, y: 0 };
        const next = clamp(now.zoom * factor);
        const [dx, dy] = [clientX - box.left - box.width / 2, clientY - box.top - box.height / 2];
        const grown = 1 - next / now.zoom;
        return { zoom: next, x: now.x + dx * grown, y: now.y + dy * grown };
      });
    },
    [fitting, sheet],
  );
  const pan = useCallback(
    (dx: number, dy: number) =>
      setHeld((before) => ({ zoom: before?.zoom ?? fitting, x: (before?.x ?? 0) + dx, y: (before?.y ?? 0) + dy })),
    [fitting],
  );
  useEffect(() => {
    const element = known(stage.current);
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      if (event.ctrlKey) around(Math.exp(-event.deltaY * 0.003), event.clientX, event.clientY);
      else pan(-event.deltaX, -event.deltaY);
    };
    // React listens passively to wheels, which could not be kept from the page.
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [stage, around, pan]);

  /** Around the middle of the stage, from which offsets are counted. */
  const by = useCallback(
    (factor: number) =>
      setHeld((before) => {
        const now = before ?? { zoom: fitting, x: 0, y: 0 };
        const next = clamp(now.zoom * factor);
        return { zoom: next, x: (now.x * next) / now.zoom, y: (now.y * next) / now.zoom };
      }),
    [fitting],
  );
  // The same object until it changes: what it is given to is not drawn anew while layers are dragged.
  return useMemo(
    () => ({
      zoom,
      fits: held === null,
      offset: { x, y },
      pan,
      toFit: () => setHeld(null),
      toSize: () => setHeld({ zoom: 1, x: 0, y: 0 }),
      to: (wanted: number) => setHeld({ zoom: clamp(wanted), x: 0, y: 0 }),
      toBox: (box: Box) => {
        const next = clamp(
          Math.min(
            (width - 120) / Math.max(box.right - box.left, 1),
            (height - 150) / Math.max(box.bottom - box.top, 1),
            12,
          ),
        );
        setHeld({
          zoom: next,
          x: (pieceWidth / 2 - (box.left + box.right) / 2) * next,
          y: (pieceHeight / 2 - (box.top + box.bottom) / 2) * next,
        });
      },
      by,
    }),
    [zoom, held, x, y, pan, by, width, height, pieceWidth, pieceHeight],
  );
}

export type Zoom = ReturnType<typeof useZoom>;
