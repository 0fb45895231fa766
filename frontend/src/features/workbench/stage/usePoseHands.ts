import { useLayoutEffect, useRef, type KeyboardEvent, type MouseEvent, type PointerEvent, type RefObject } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { api } from '../../../api/client';
import type { Layer, Piece, Pose } from '../../../api/contract';
import { chainTo, type Point } from '../../../shared/geometry/matrix';
import { farBy } from '../../../shared/ui/far';
import { useHeld } from '../../../shared/ui/useHeld';
import type { Scene } from '../../player';
import { sayFault, useBench } from '../bench';
import { choose, chooseAlso, chooseLayers } from '../choosing';
import { chosenLayers } from '../chosen';
import { nudge } from '../looks';
import { goToPiece } from '../placements';
import { look, useView } from '../view';
import { beneathAt, boxBetween, caughtAt, outermost } from './caught';
import { addStop, axisAt } from './addStop';
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
  const beneath = useRef<string | null>(null);

  const press = (id: string, grip: string | null, event: PointerEvent) => {
    const held = chosen.includes(id) ? chosen : event.shiftKey ? [...chosen, id] : [id];
    // Shift let go in place takes a layer out again; pulled, it keeps to one axis.
    letGo.current = event.shiftKey && !grip && chosen.includes(id) ? id : null;
    beneath.current = event.altKey && !grip ? beneathAt(event, layers, pose, id) : null;
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
    const within = entered(layers, chosen);
    if (id) return press(id, grip, event);
    if (!event.shiftKey) choose({ layer: null, transition: null, lane: null });
    area.begin(pointAt(event), within);
  };
  const onPointerMove = (event: PointerEvent) => {
    if (event.buttons === 4) zooming.pan(event.movementX, event.movementY);
    else if (!area.grow(pointAt(event))) move(pointAt(event), event);
  };
  const up = (event: PointerEvent, given = false) => {
    if (area.close(event.shiftKey, given)) return;
    const [out, under] = [letGo.current, beneath.current];
    void end(given).then((moved) => {
      if (!moved && out) chooseAlso(out);
      if (!moved && under) choose({ layer: under, transition: null });
    });
  };
  const onDoubleClick = (event: MouseEvent) => {
    const axis = axisAt(event.clientX, event.clientY);
    if (axis) return void addStop(axis, pointAt(event));
    const id = caughtAt(event, layers, pose, chosen, true);
    if (!id) return;
    if (id === chosen.at(-1)) open(chainTo(layers, id).at(-1));
    else choose({ layer: id });
  };
  const onKeyDown = (event: KeyboardEvent) => keyOn(event, layers, chosen);
  const onPointerUp = (event: PointerEvent) => up(event);
  const onPointerCancel = (event: PointerEvent) => up(event, true);
  const hands = { onPointerDown, onPointerMove, onPointerUp, onPointerCancel, onDoubleClick, onKeyDown };
  return { chosen, drag, area: area.shown, pointAt, hands };
}

/** Enter opens what is chosen, arrow keys move it. */
function keyOn(event: KeyboardEvent, layers: readonly Layer[], chosen: readonly string[]): void {
  const arrow = ARROWS[event.key];
  if (!chosen.length || event.target !== event.currentTarget) return;
  if (event.key === 'Enter') open(chainTo(layers, lastOf(chosen)).at(-1));
  if (!arrow) return;
  event.preventDefault();
  const step = farBy(event);
  void nudge(outermost(layers, chosen), arrow[0] * step, arrow[1] * step);
}

/** What lies in it: the points of a path, the words of a text, the piece of a copy, the layers of a group. */
function open(layer: Layer | undefined): void {
  if (layer?.kind === 'placement') goToPiece(layer.piece);
  else if (layer?.kind === 'path') look({ points: layer.id });
  else if (layer?.kind === 'text') look({ text: layer.id });
  else if (layer?.kind === 'group') choose({ layer: layer.layers?.at(-1)?.id ?? layer.id });
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

/** The group that somebody has gone into: that of the layer that is chosen. */
function entered(layers: readonly Layer[], chosen: readonly string[]): Layer | null {
  const group = chainTo(layers, chosen.at(-1) ?? '').at(-2);
  return group?.kind === 'group' ? group : null;
}

/** A rectangle drawn on the stage; what it touches is chosen, first of all in the group that was gone into. */
function useArea({ layers, pose, zoom, chosen }: Around) {
  const { shown, held, hold } = useHeld<{ from: Point; to: Point; within: Layer | null }>();
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
    const inside = drawn.within?.layers ? touched(drawn.within.layers, pose, box, layers) : [];
    const met = inside.length ? inside : touched(layers, pose, box);
    chooseLayers(also ? [...new Set([...chosen, ...met])] : met);
    return true;
  };
  return { shown, begin: (at: Point, within: Layer | null) => hold({ from: at, to: at, within }), grow, close };
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
