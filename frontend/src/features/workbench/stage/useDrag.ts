import equal from 'fast-deep-equal';
import { useRef, type PointerEvent } from 'react';
import type { Layer, Pose, Value } from '../../../api/contract';
import type { Point } from '../../../shared/geometry/matrix';
import { useHeld } from '../../../shared/ui/useHeld';
import type { Scene } from '../../player';
import { attempt, queue, useBench } from '../bench';
import { chooseLayers } from '../choosing';
import { boxOf, duplicateLayers, type Box } from '../edits';
import { showAs, unlocked } from '../looks';
import { dragged, holdLayers, type Dragged, type Grip, type Held, type Values } from './gestures';
import { linesBeside, type Lines } from './snapping';
import { known } from '../../../shared/known';

export interface Drag extends Dragged {
  held: Held;
  lines: Lines;
  moved: boolean;
  /** A copy is drawn out of what stays. */
  copies: boolean;
  /** Let go; shown so until the edit is made. */
  released: boolean;
}

/** px on the screen within which edges snap */
const REACH = 5;

interface Around {
  layers: readonly Layer[];
  pose: Pose;
  piece: { width: number; height: number };
  zoom: number;
  scene: Scene | null;
}

/** Layers in the hand: shown while they are dragged, and an edit once they are let go. */
export function useDrag({ layers, pose, piece, zoom, scene }: Around) {
  const { shown: drag, held: now, hold: setDrag } = useHeld<Drag>({ giveUp: () => void end(true) });
  // Where layers have been put that the pose does not show yet: the next drag begins there.
  const onTheWay = useRef<Record<string, Values>>({});

  const preview = (looks: Record<string, Values>) => scene && shownIn(scene, looks);
  const asBefore = (drag: Drag) => preview(before(drag));

  const start = (ids: readonly string[], grip: Grip, from: Point, copies: boolean) => {
    if (!unlocked(useBench.getState().document, ids).length) return;
    const held = holdLayers(layers, withLooks(pose, onTheWay.current), ids, grip, from);
    setDrag({
      held,
      lines: linesBeside(layers, copies ? [] : ids, pose, piece, useBench.getState().document),
      looks: {},
      guides: {},
      moved: false,
      copies: copies && grip === 'move',
      released: false,
    });
  };
  const move = (to: Point, keys: PointerEvent) => {
    const drag = now();
    if (!drag || drag.released) return;
    const next = dragged(drag.held, to, keys, drag.lines, REACH / zoom);
    if (equal(next, { looks: drag.looks, guides: drag.guides })) return;
    setDrag({ ...drag, ...next, moved: true });
    // A pivot that moves leaves its layer where it is.
    if (!drag.copies && drag.held.grip !== 'pivot') preview(next.looks);
  };
  /** Makes the edit, unless the drag was taken away: `given` up. Whether anything was moved. */
  const end = async (given = false): Promise<boolean> => {
    const drag = now();
    if (!drag || drag.released) return false;
    const settle = () => now()?.held === drag.held && setDrag(null);
    const changed = changedIn(drag);
    if (given || !Object.keys(changed).length) {
      settle();
      if (drag.moved) asBefore(drag);
      return false;
    }
    setDrag({ ...drag, guides: {}, released: true });
    if (!drag.copies) onTheWay.current = merged(onTheWay.current, changed);
    const done = drag.copies ? await copied(changed) : await showAs(changed);
    if (queue.isEmpty) onTheWay.current = {};
    settle();
    if (!done) asBefore(drag);
    return true;
  };
  return { drag, start, move, end };
}

/** Writes values into a scene, until it is drawn anew. */
export function shownIn(scene: Scene, looks: Record<string, Record<string, Value>>): void {
  for (const [id, values] of Object.entries(looks)) {
    const shown = scene.shown.get(id);
    if (!shown) continue;
    Object.assign(shown.look, values);
    for (const write of scene.writersOf(shown, Object.keys(values))) write(shown, shown.look);
  }
}

/** What the values that were pulled had been. */
function before({ held, looks }: Drag): Record<string, Values> {
  const of = (id: string) => known(held.parts.find((part) => part.id === id)).look;
  return Object.fromEntries(
    Object.entries(looks).map(([id, values]) => [
      id,
      Object.fromEntries(Object.keys(values).map((name) => [name, Number(of(id)[name])])),
    ]),
  );
}

const merged = (a: Record<string, Values>, b: Record<string, Values>) => ({
  ...a,
  ...Object.fromEntries(Object.entries(b).map(([id, values]) => [id, { ...a[id], ...values }])),
});

const withLooks = (pose: Pose, looks: Record<string, Values>): Pose => ({
  ...pose,
  ...Object.fromEntries(
    Object.entries(looks).flatMap(([id, values]) => (pose[id] ? [[id, { ...pose[id], ...values }]] : [])),
  ),
});

function changedIn({ held, looks }: Drag): Record<string, Values> {
  const changed = held.parts.map(({ id, look }): [string, Values] => [
    id,
    Object.fromEntries(Object.entries(looks[id] ?? {}).filter(([name, value]) => look[name] !== value)),
  ]);
  return Object.fromEntries(changed.filter(([, values]) => Object.keys(values).length));
}

/** Copies where the layers were dragged to, in all states as far from what they were made of. */
async function copied(looks: Record<string, Values>): Promise<boolean> {
  const { document: piece, state, poses } = useBench.getState();
  const ids = Object.keys(looks);
  const edit = duplicateLayers(
    piece,
    ids,
    (id) =>
      ['x', 'y'].map(
        (name) =>
          (known(looks[id])[name] ?? Number(known(known(poses[state])[id])[name])) -
          Number(known(known(poses[state])[id])[name]),
      ) as Point,
  );
  if (!(await attempt(edit))) return false;
  chooseLayers(edit.ids);
  return true;
}

/** The layers that a rectangle drawn on the stage touches, the lowest first: whole groups, nothing locked or unseen.
 *
 * Of `among`, which are all, or those of one group. */
export function touched(among: readonly Layer[], pose: Pose, area: Box, layers = among): string[] {
  return among
    .filter(({ id, locked }) => !locked && Number(pose[id]?.visible) && Number(pose[id]?.opacity))
    .filter(({ id }) => {
      const box = boxOf(layers, pose, id);
      return box.left <= area.right && box.right >= area.left && box.top <= area.bottom && box.bottom >= area.top;
    })
    .map(({ id }) => id);
}
