import type { KeyboardEvent } from 'react';
import type { Piece } from '../../../api/contract';
import type { Point } from '../../../shared/geometry/matrix';
import { readPath, splitAfter, writePath, type Subpath } from '../../../shared/geometry/path';
import { round } from '../../../shared/text/sums';
import { textOf } from '../../../shared/text/values';
import { stepped } from '../../../shared/ui/hands';
import { attempt, attemptNext, useBench } from '../bench';
import { reaches } from '../chosen';
import { setValues, valueOf } from '../edits';
import { placed } from '../tree';
import { bent, changed, moved, without, type Place } from './pointEdits';
import { ownMatrix, useHandles, type OverLayer } from './useHandles';
import { known } from '../../../shared/known';

const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** The points of a path in the hand: pulled, moved by keys, bent, added and removed. */
export function usePointHands(over: OverLayer) {
  const { id, pose } = over;
  const look = known(pose[id]);
  const name = placed(useBench.getState().document, id).layer.name;
  const matrix = ownMatrix(over).scale(
    Number(look.width) / Number(look.view_width),
    Number(look.height) / Number(look.view_height),
  );
  const commit = (subpaths: Subpath[], what: string) => {
    const bench = useBench.getState();
    const edit = setValues(bench.document, bench.state, id, { path: writePath(subpaths) }, reaches(bench, [id]));
    return attempt({ ...edit, label: `${what} of ${name}` });
  };
  const { shown: drawn, drag } = useHandles<Place, Subpath[]>({
    over,
    matrix,
    value: readPath(textOf(look.path)),
    written: (subpaths) => ['path', writePath(subpaths)],
    // On whole px of the path, as it was drawn; Ctrl leaves them.
    pull: (subpaths, place, [x, y], event) =>
      moved(subpaths, place, event.ctrlKey ? [x, y] : [Math.round(x), Math.round(y)], event.altKey),
    commit: (subpaths) => commit(subpaths, 'Point'),
  });
  const bend = (s: number, k: number) => void commit(changed(drawn, s, k, bent(known(drawn[s]), k)), 'Corner');
  const add = (s: number, k: number) =>
    void commit(
      drawn.map((subpath, i) => (i === s ? splitAfter(subpath, k) : subpath)),
      'Point added',
    );
  /** What is in hand is removed, and never the layer around it. */
  const remove = ([s, k, part]: Place) => {
    if (part !== 'at') {
      const knot = known(drawn[s]?.knots[k]);
      return void commit(changed(drawn, s, k, { ...knot, [part]: null }), 'Handle removed');
    }
    const left = without(drawn, s, k);
    if (left) void commit(left, 'Point removed');
  };
  const onKey = (event: KeyboardEvent, place: Place) => {
    const arrow = ARROWS[event.key];
    const step = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    const alone = event.altKey && place[2] !== 'at';
    if (arrow) nudge(id, name, matrix, place, [arrow[0] * step, arrow[1] * step], alone);
    else if (event.key === 'Delete') remove(place);
    else if (event.key === 'Enter') bend(place[0], place[1]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return { name, matrix, drawn, drag, bend, add, onKey };
}

/** In px and axes of the piece, from where the steps that are still on their way will have put it. */
function nudge(id: string, name: string, matrix: DOMMatrix, place: Place, [dx, dy]: Point, alone: boolean): void {
  const bench = useBench.getState();
  const scope = reaches(bench, [id]);
  const inverse = matrix.inverse();
  const by: Point = [inverse.a * dx + inverse.c * dy, inverse.b * dx + inverse.d * dy];
  const [s, k, part] = place;
  const step = (piece: Piece) => {
    const subpaths = readPath(textOf(valueOf(piece, bench.state, id, 'path', scope)));
    const from = subpaths[s]?.knots[k]?.[part];
    const to: Point | null = from ? [round(from[0] + by[0]), round(from[1] + by[1])] : null;
    const after = to ? moved(subpaths, place, to, alone) : subpaths;
    return { ...setValues(piece, bench.state, id, { path: writePath(after) }, scope), label: `Point of ${name}` };
  };
  void stepped(() => attemptNext(step));
}
