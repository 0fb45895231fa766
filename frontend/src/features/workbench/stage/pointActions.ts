/* Edits of the path whose points are shown: of the points that are chosen, or of the outline around them. */
import type { Point } from '../../../shared/geometry/matrix';
import { readPath, writePath, type Subpath } from '../../../shared/geometry/path';
import { textOf } from '../../../shared/text/values';
import { attemptNext, tell, useBench } from '../bench';
import { reaches } from '../chosen';
import { setValues, valueOf } from '../edits';
import { placed } from '../tree';
import { look, useView } from '../view';
import { bentAll, closedOrOpened, movedBy, withoutAll, type Corner } from './pointEdits';

export const cornerKey = ([s, k]: readonly [number, number]): string => `${s},${k}`;
export const chosenCorners = (): Corner[] =>
  useView.getState().corners.map((key) => key.split(',').map(Number) as unknown as Corner);

/** Goes on from where the edits that are still on their way will have put the points; null leaves them. */
export function editPoints(what: string, change: (subpaths: Subpath[]) => Subpath[] | null): Promise<boolean> {
  const bench = useBench.getState();
  const { points: id } = useView.getState();
  if (!id) return Promise.resolve(false);
  const scope = reaches(bench, [id]);
  return attemptNext((piece) => {
    const before = readPath(textOf(valueOf(piece, bench.state, id, 'path', scope)));
    const path = writePath(change(before) ?? before);
    return {
      ...setValues(piece, bench.state, id, { path }, scope),
      label: `${what} of ${placed(piece, id).layer.name}`,
    };
  });
}

export const bendChosen = (corners = chosenCorners()) => editPoints('Corner', (all) => bentAll(all, corners));

/** By px of the path. */
export const moveChosen = (by: Point, corners = chosenCorners()) =>
  editPoints('Point', (all) => movedBy(all, corners, by));

/** What is left is at least a line. */
export async function removeChosen(corners = chosenCorners()): Promise<void> {
  let isLeft = true;
  const done = await editPoints('Point removed', (all) => {
    const left = withoutAll(all, corners);
    isLeft = left !== null;
    return left;
  });
  if (!isLeft) tell('An outline keeps at least two points. Escape twice, then Delete, deletes the layer.');
  else if (done) look({ corners: [] });
}

/** A closed outline is opened behind the point that is chosen, an open one is closed. */
export const closeOrOpen = ([s, k]: Corner) => editPoints('Outline', (all) => closedOrOpened(all, s, k));
