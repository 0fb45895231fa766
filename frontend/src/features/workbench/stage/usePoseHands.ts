import { useLayoutEffect, useRef, type KeyboardEvent, type MouseEvent, type PointerEvent, type RefObject } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { api } from '../../../api/client';
import type { Layer, Piece, Pose } from '../../../api/contract';
import { chainTo, type Point } from '../../../shared/geometry/matrix';
import { useHeld } from '../../../shared/ui/useHeld';
import type { Scene } from '../../player';
import { sayFault, useBench } from '../bench';
import { choose, chooseAlso, chooseLayers } from '../choosing';
import { chosenLayers } from '../chosen';
import { nudge } from '../looks';
import { goToPiece } from '../placements';
import { look, useView } from '../view';
import { boxBetween, caughtAt, outermost } from './caught';
import { gripOf } from './Frame';
import { touched, useDrag } from './useDrag';
import type { Zoom } from './useZoom';
import { known, lastOf } from '../../../shared/known';

const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
/** px on the screen: a rectangle that is smaller was a click. */
const LEAST_AREA = 4;

interface Stage {
  stage: RefObject<HTMLElement | null>;
  sheet: RefObject<HTMLElement | null>;
  zooming: Zoom;
  picture: Pick<Piece, 'width' | 'height'>;
  layers: readonly Layer[];
  pose: Pose;
  scene: Scene | null;
}

/** Pointer and keys on the stage: layers are chosen, gone into, pulled and nudged, areas drawn, colours taken. */
export function usePoseHands({ stage, sheet, zooming, picture, layers, pose, scene }: Stage) {
  const { zoom } = zooming;
  const chosen = useBench(useShallow(chosenLayers));
  const { pointAt, forget } = usePointAt(sheet, zooming, picture);
  const { drag, start, move, end } = useDrag({ layers, pose, piece: picture, zoom, scene });
  const area = useArea({ layers, pose, zoom, chosen });
  const letGo = useRef<string | null>(null);

  const press = (id: string, grip: string | null, event: PointerEvent) => {
    const held = chosen.includes(id) ? chosen : event.shiftKey ? [...chosen, id] : [id];
    // Shift let go in place takes a layer out again; pulled, it keeps to one axis.
    letGo.current = event.shiftKey && !grip && chosen.includes(id) ? id : null;
    if (!chosen.includes(id)) chooseLayers(held);
    start(outermost(layers, held), grip ? gripOf(grip) : 'move', pointAt(event), event.altKey);
  };
  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    known(stage.current).focus({ preventScroll: true });
    forget();
    if (event.button === 1) return event.currentTarget.setPointerCapture(event.pointerId);
    if (event.button !== 0) return;
    const { tool, points } = useView.getState();
    if (tool === 'colour') return void takeColourAt(pointAt(event));
    const grip = (event.target as Element).closest('[data-grip]')?.getAttribute('data-grip') ?? null;
    const id = grip ? lastOf(chosen) : caughtAt(event, layers, pose, chosen, false);
    event.currentTarget.setPointerCapture(event.pointerId);
    if (id !== points) look({ points: null });
    if (id) return press(id, grip, event);
    if (!event.shiftKey) choose({ layer: null, transition: null, lane: null });
    area.begin(pointAt(event));
  };
  const onPointerMove = (event: PointerEvent) => {
    if (event.buttons === 4) zooming.pan(event.movementX, event.movementY);
    else if (!area.grow(pointAt(event))) move(pointAt(event), event);
  };
  const up = (event: PointerEvent, given = false) => {
    if (area.close(event.shiftKey, given)) return;
    const out = letGo.current;
    void end(given).then((moved) => !moved && out && chooseAlso(out));
  };
  const onDoubleClick = (event: MouseEvent) => {
    const id = caughtAt(event, layers, pose, chosen, true);
    const layer = id ? chainTo(layers, id).at(-1) : undefined;
    if (layer?.kind === 'placement' && layer.id === chosen.at(-1)) return goToPiece(layer.piece);
    const isPath = id && id === chosen.at(-1) && chainTo(layers, id).at(-1)?.kind === 'path';
    if (isPath) look({ points: id });
    else if (id) choose({ layer: id });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow || !chosen.length || event.target !== event.currentTarget) return;
    event.preventDefault();
    const step = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    void nudge(outermost(layers, chosen), arrow[0] * step, arrow[1] * step);
  };
  const onPointerUp = (event: PointerEvent) => up(event);
  const onPointerCancel = (event: PointerEvent) => up(event, true);
  const hands = { onPointerDown, onPointerMove, onPointerUp, onPointerCancel, onDoubleClick, onKeyDown };
  return { chosen, drag, area: area.shown, pointAt, hands };
}

/** From the pointer to px of the piece. */
function usePointAt(sheet: RefObject<HTMLElement | null>, zooming: Zoom, picture: unknown) {
  // Read once and kept: to read it at each move would make the browser lay out the page in the middle of it.
  const corner = useRef<{ left: number; top: number } | null>(null);
  useLayoutEffect(() => {
    corner.current = null;
  }, [zooming, picture]);
  const pointAt = (event: PointerEvent | MouseEvent): Point => {
    const { left, top } = (corner.current ??= known(sheet.current).getBoundingClientRect());
    return [(event.clientX - left) / zooming.zoom, (event.clientY - top) / zooming.zoom];
  };
  const forget = () => {
    corner.current = null;
  };
  return { pointAt, forget };
}

interface Around {
  layers: readonly Layer[];
  pose: Pose;
  zoom: number;
  chosen: readonly string[];
}

/** A rectangle drawn on the stage; what it touches is chosen. */
function useArea({ layers, pose, zoom, chosen }: Around) {
  const { shown, held, hold } = useHeld<{ from: Point; to: Point }>();
  const grow = (to: Point): boolean => {
    const drawn = held();
    if (drawn) hold({ ...drawn, to });
    return drawn !== null;
  };
  /** Whether there was one. With `also` what it touches is chosen besides. */
  const close = (also: boolean, given: boolean): boolean => {
    const drawn = held();
    if (!drawn) return false;
    hold(null);
    const box = boxBetween(drawn.from, drawn.to);
    if (given || Math.hypot(box.right - box.left, box.bottom - box.top) * zoom < LEAST_AREA) return true;
    const met = touched(layers, pose, box);
    chooseLayers(also ? [...new Set([...chosen, ...met])] : met);
    return true;
  };
  return { shown, begin: (at: Point) => hold({ from: at, to: at }), grow, close };
}

async function takeColourAt([x, y]: Point): Promise<void> {
  const { onColour } = useView.getState();
  const { id, state } = useBench.getState();
  look({ tool: 'choose', onColour: null });
  try {
    const { colour } = await api.colourAt(id, state, x, y);
    if (colour !== 'none') onColour?.(colour);
  } catch (error) {
    sayFault(error);
  }
}
