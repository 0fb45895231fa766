import { useEffect, useState, type PointerEvent } from 'react';
import { through, type Point } from '../../../shared/geometry/matrix';
import { boundsOf, mapPath, readPath, writePath, type Knot } from '../../../shared/geometry/path';
import { round } from '../../../shared/text/sums';
import { useHeld } from '../../../shared/ui/useHeld';
import { attempt, useBench } from '../bench';
import { choose } from '../choosing';
import { reaches } from '../chosen';
import { addLayer, setValues, type Edit } from '../edits';
import { speak } from '../speech';
import { placed } from '../tree';
import { textOf } from '../../../shared/text/values';
import { look, useView } from '../view';
import { reversed } from './pointEdits';
import { pathMatrix } from './useHandles';
import { firstOf, lastOf } from '../../../shared/known';

/** px on the screen within which a point is met again */
const REACH = 7;
const isUndo = (event: KeyboardEvent) => (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z';
const rounded = ([x, y]: Point): Point => [Math.round(x), Math.round(y)];
const corner = (at: Point): Knot => ({ at, into: null, out: null });

/** Points set one after another; in px of the piece. The first one met again closes the outline, the last one ends it.
 *
 * Begun at an end of the chosen path it goes on from there. */
export function usePen(zoom: number, pointAt: (event: PointerEvent) => Point) {
  const line = useView((v) => v.tool) === 'line';
  const [goesOn, setGoesOn] = useState<End | null>(null);
  const { shown, held, hold } = useHeld<Knot[]>({ giveUp: null });
  const [pointer, setPointer] = useState<Point | null>(null);
  const set = () => held() ?? [];
  const near = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]) * zoom < REACH;

  const finish = async (closed: boolean, drawn = set()) => {
    hold(null);
    look({ tool: 'choose' });
    if (goesOn)
      return void (drawn.length > goesOn.knots.length || closed ? await attempt(extended(goesOn, drawn, closed)) : 0);
    if (drawn.length < 2) return;
    const edit = addDrawn(drawn, closed, line ? 'Line' : 'Path');
    if (await attempt(edit)) choose({ layer: edit.id, transition: null });
  };
  usePenKeys({
    end: () => void finish(false),
    giveUp: () => void finish(false, []),
    back: () => hold(set().slice(0, Math.max(set().length - 1, goesOn?.knots.length ?? 0))),
  });

  const down = (event: PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const knots = set();
    const at = rounded(inSteps(pointAt(event), event.shiftKey ? knots.at(-1)?.at : undefined));
    const end = knots.length || line ? null : endNear((place) => near(at, place));
    if (end) {
      setGoesOn(end);
      hold(end.knots);
      return speak(`Goes on from the end of ${end.name}`);
    }
    if (knots.length > 1 && near(at, firstOf(knots).at)) return void finish(true);
    if (knots.length > 1 && near(at, lastOf(knots).at)) return void finish(false);
    hold([...knots, corner(at)]);
    speak(`Point at ${at[0]}, ${at[1]}`);
  };
  /** Pulled before it is let go, a point gets handles. */
  const move = (event: PointerEvent) => {
    const at = pointAt(event);
    setPointer(at);
    const last = set().at(-1);
    if (event.buttons !== 1 || !last || line || near(at, last.at)) return;
    const out = rounded(inSteps(at, event.shiftKey ? last.at : undefined));
    // Alt pulls the way that follows alone.
    const into: Point | null = event.altKey ? last.into : [2 * last.at[0] - out[0], 2 * last.at[1] - out[1]];
    hold([...set().slice(0, -1), { at: last.at, out, into }]);
  };
  const up = (event: PointerEvent) => {
    const [start] = set();
    if (!line || !start) return;
    const end = rounded(inSteps(pointAt(event), event.shiftKey ? start.at : undefined));
    if (!near(start.at, end)) void finish(false, [start, corner(end)]);
  };
  return { knots: shown ?? [], pointer, down, move, up, line };
}

function usePenKeys({ end, giveUp, back }: Record<'end' | 'giveUp' | 'back', () => void>): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key === 'Enter') end();
      else if (event.key === 'Escape') giveUp();
      else if (event.key === 'Backspace' || isUndo(event)) back();
      else return;
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    window.addEventListener('keydown', press, { capture: true });
    return () => window.removeEventListener('keydown', press, { capture: true });
  });
}

const STEP = Math.PI / 12;

/** Seen from a place, in the nearest direction of those 15° apart. */
function inSteps(at: Point, from: Point | undefined): Point {
  if (!from) return at;
  const [dx, dy] = [at[0] - from[0], at[1] - from[1]];
  const angle = Math.round(Math.atan2(dy, dx) / STEP) * STEP;
  const far = dx * Math.cos(angle) + dy * Math.sin(angle);
  return [from[0] + far * Math.cos(angle), from[1] + far * Math.sin(angle)];
}

/** An end of a path that can be gone on from: the path in px of the piece, with that end last. */
interface End {
  id: string;
  name: string;
  subpath: number;
  knots: Knot[];
  matrix: DOMMatrix;
}

function endNear(isNear: (at: Point) => boolean): End | null {
  const { document: piece, layer: id, poses, state } = useBench.getState();
  const pose = poses[state];
  const path = id ? placed(piece, id).layer : undefined;
  const own = id && pose?.[id];
  if (!id || path?.kind !== 'path' || !own) return null;
  const matrix = pathMatrix(piece.layers ?? [], pose, id);
  const all = mapPath(readPath(textOf(own.path)), (at) => through(matrix, at));
  for (const [subpath, { knots, closed }] of all.entries()) {
    if (closed) continue;
    if (isNear(lastOf(knots).at)) return { id, name: path.name, subpath, knots, matrix };
    if (isNear(firstOf(knots).at)) return { id, name: path.name, subpath, knots: reversed(knots), matrix };
  }
  return null;
}

/** The path with what was drawn at its end. */
function extended({ id, name, subpath, matrix }: End, drawn: Knot[], closed: boolean): Edit {
  const bench = useBench.getState();
  const before = readPath(textOf(bench.poses[bench.state]?.[id]?.path));
  const [own] = mapPath([{ knots: drawn, closed }], (at) => through(matrix.inverse(), at));
  const path = writePath(before.map((old, i) => (i === subpath && own ? own : old)));
  const edit = setValues(bench.document, bench.state, id, { path }, reaches(bench, [id]));
  return { ...edit, label: `${name} drawn on` };
}

/** A layer for an outline drawn in px of the piece: a filled shape where it is closed, else a stroke. */
function addDrawn(knots: Knot[], closed: boolean, name: string) {
  const drawn = [{ knots, closed }];
  const [left, top, right, bottom] = boundsOf(drawn);
  const [width, height] = [Math.max(round(right - left), 1), Math.max(round(bottom - top), 1)];
  const path = writePath(mapPath(drawn, ([x, y]) => [x - left, y - top]));
  const paint = closed
    ? { fill: '#1f7a70' }
    : { fill: 'none', stroke: '#15293b', stroke_width: 3, stroke_join: 'round' };
  return addLayer(
    useBench.getState().document,
    'path',
    { x: left, y: top, width, height, view_width: width, view_height: height, path, ...paint },
    name,
  );
}
