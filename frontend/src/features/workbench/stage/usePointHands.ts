import type { KeyboardEvent, PointerEvent } from 'react';
import type { Point } from '../../../shared/geometry/matrix';
import { readPath, splitAfter, writePath, type Subpath } from '../../../shared/geometry/path';
import { round } from '../../../shared/text/sums';
import { textOf } from '../../../shared/text/values';
import { farBy } from '../../../shared/ui/far';
import { stepped } from '../../../shared/ui/hands';
import { attempt, useBench } from '../bench';
import { reaches } from '../chosen';
import { setValues } from '../edits';
import { placed } from '../tree';
import { look as show, useView } from '../view';
import { bendChosen, chosenCorners, cornerKey, editPoints, moveChosen, removeChosen } from './pointActions';
import { changed, moved, movedBy, type Corner, type Place } from './pointEdits';
import { pathMatrix, useHandles, type OverLayer } from './useHandles';
import { known } from '../../../shared/known';

const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** The points of a path in the hand: pulled, moved by keys, bent, added and removed. */
export function usePointHands(over: OverLayer) {
  const { id, pose } = over;
  const look = known(pose[id]);
  const name = placed(useBench.getState().document, id).layer.name;
  const matrix = pathMatrix(over.layers, pose, id);
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
    at: (subpaths, [s, k, part]) => subpaths[s]?.knots[k]?.[part] ?? undefined,
    press: (place, event) => press(place, event.shiftKey),
    pull: (subpaths, place, at, event) => pulled(subpaths, place, at, event),
    commit: (subpaths) => commit(subpaths, 'Point'),
  });
  const add = (s: number, k: number) =>
    void commit(
      drawn.map((subpath, i) => (i === s ? splitAfter(subpath, k) : subpath)),
      'Point added',
    );
  /** What is in hand is removed, and never the layer around it. */
  const remove = ([s, k, part]: Place) => {
    if (part === 'at') return void removeChosen(cornersAt([s, k]));
    const knot = known(drawn[s]?.knots[k]);
    void commit(changed(drawn, s, k, { ...knot, [part]: null }), 'Handle removed');
  };
  const chooseAll = () => choosePoints(drawn.flatMap(({ knots }, s) => knots.map((_, k) => cornerKey([s, k]))));
  const onKey = (event: KeyboardEvent, place: Place) => {
    const arrow = ARROWS[event.key];
    const step = farBy(event);
    if (arrow) nudge(matrix, place, [arrow[0] * step, arrow[1] * step], event.altKey && place[2] !== 'at');
    else if (event.key === 'Delete') remove(place);
    else if (event.key === 'Enter') void bendChosen(cornersAt(place));
    else if (event.key === ' ') press(place, true);
    else if (event.key === 'a' && event.ctrlKey) chooseAll();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return { name, matrix, drawn, drag, add, onKey };
}

const choosePoints = (corners: readonly string[]) => show({ corners });

/** All that are chosen where this one is among them, else this one alone. */
function cornersAt([s, k]: Place | Corner): Corner[] {
  const chosen = chosenCorners();
  return chosen.some((each) => cornerKey(each) === cornerKey([s, k])) ? chosen : [[s, k]];
}

/** Chooses a point, with Shift besides others, or no longer. */
function press([s, k, part]: Place, also: boolean): void {
  if (part !== 'at') return;
  const { corners } = useView.getState();
  const key = cornerKey([s, k]);
  if (also) choosePoints(corners.includes(key) ? corners.filter((each) => each !== key) : [...corners, key]);
  else if (!corners.includes(key)) choosePoints([key]);
}

/** On whole px of the path, as it was drawn; Ctrl leaves them. What is chosen besides goes as far. */
function pulled(subpaths: Subpath[], place: Place, [x, y]: Point, { ctrlKey, altKey }: PointerEvent): Subpath[] {
  const to: Point = ctrlKey ? [x, y] : [Math.round(x), Math.round(y)];
  if (place[2] !== 'at') return moved(subpaths, place, to, altKey);
  const { at } = known(subpaths[place[0]]?.knots[place[1]]);
  return movedBy(subpaths, cornersAt(place), [to[0] - at[0], to[1] - at[1]]);
}

/** In px and axes of the piece. */
function nudge(matrix: DOMMatrix, place: Place, [dx, dy]: Point, alone: boolean): void {
  const inverse = matrix.inverse();
  const by: Point = [inverse.a * dx + inverse.c * dy, inverse.b * dx + inverse.d * dy];
  const [s, k, part] = place;
  if (part === 'at') return void stepped(() => moveChosen(by, cornersAt(place)));
  void stepped(() =>
    editPoints('Point', (all) => {
      const from = all[s]?.knots[k]?.[part];
      return from ? moved(all, place, [round(from[0] + by[0]), round(from[1] + by[1])], alone) : null;
    }),
  );
}
