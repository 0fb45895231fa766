import { useEffect, useState, type PointerEvent } from 'react';
import type { Point } from '../../../shared/geometry/matrix';
import { boundsOf, mapPath, writePath, type Knot } from '../../../shared/geometry/path';
import { round } from '../../../shared/text/sums';
import { useHeld } from '../../../shared/ui/useHeld';
import { attempt, useBench } from '../bench';
import { choose } from '../choosing';
import { addLayer } from '../edits';
import { speak } from '../speech';
import { look, useView } from '../view';
import { firstOf, lastOf } from '../../../shared/known';

/** px on the screen within which a point is met again */
const REACH = 7;
const isUndo = (event: KeyboardEvent) => (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z';
const rounded = ([x, y]: Point): Point => [Math.round(x), Math.round(y)];
const corner = (at: Point): Knot => ({ at, into: null, out: null });

/** Points set one after another; in px of the piece. The first one met again closes the outline, the last one ends it. */
export function usePen(zoom: number, pointAt: (event: PointerEvent) => Point) {
  const line = useView((v) => v.tool) === 'line';
  const { shown, held, hold } = useHeld<Knot[]>({ giveUp: null });
  const [pointer, setPointer] = useState<Point | null>(null);
  const set = () => held() ?? [];
  const near = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]) * zoom < REACH;

  const finish = async (closed: boolean, drawn = set()) => {
    hold(null);
    look({ tool: 'choose' });
    if (drawn.length < 2) return;
    const edit = addDrawn(drawn, closed, line ? 'Line' : 'Path');
    if (await attempt(edit)) choose({ layer: edit.id, transition: null });
  };
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key === 'Enter') void finish(false);
      else if (event.key === 'Escape') void finish(false, []);
      else if (event.key === 'Backspace' || isUndo(event)) hold(set().slice(0, -1));
      else return;
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    window.addEventListener('keydown', press, { capture: true });
    return () => window.removeEventListener('keydown', press, { capture: true });
  });

  const down = (event: PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const at = rounded(pointAt(event));
    const knots = set();
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
    const out = rounded(at);
    hold([...set().slice(0, -1), { at: last.at, out, into: [2 * last.at[0] - out[0], 2 * last.at[1] - out[1]] }]);
  };
  const up = (event: PointerEvent) => {
    const [start] = set();
    if (!line || !start) return;
    const end = rounded(pointAt(event));
    // Shift keeps a line level or upright.
    const kept = Math.abs(end[0] - start.at[0]) > Math.abs(end[1] - start.at[1]) ? 1 : 0;
    if (event.shiftKey) end[kept] = start.at[kept];
    if (!near(start.at, end)) void finish(false, [start, corner(end)]);
  };
  return { knots: shown ?? [], pointer, down, move, up, line };
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
