/* What the pointer meets on the stage. */
import type { MouseEvent } from 'react';
import type { Layer, Pose } from '../../../api/contract';
import { chainTo, type Point } from '../../../shared/geometry/matrix';
import type { Box } from '../edits';
import { firstOf, known } from '../../../shared/known';

export const boxBetween = ([ax, ay]: Point, [bx, by]: Point): Box => ({
  left: Math.min(ax, bx),
  top: Math.min(ay, by),
  right: Math.max(ax, bx),
  bottom: Math.max(ay, by),
});

/** Without what lies inside another that is chosen too: it moves along with that. */
export function outermost(layers: readonly Layer[], ids: readonly string[]): string[] {
  return ids.filter(
    (id) =>
      !chainTo(layers, id)
        .slice(0, -1)
        .some((outer) => ids.includes(outer.id)),
  );
}

/** What can be held under the pointer, the topmost first. */
function metAt(event: MouseEvent, layers: readonly Layer[], pose: Pose): string[] {
  const hits = document
    .elementsFromPoint(event.clientX, event.clientY)
    .filter((e) => e.closest('[data-stage=pose]') && !e.closest('.ghosts'));
  const ids = hits
    // What lies in a copy is caught as the copy.
    .map((e) => e.closest('[data-layer]')?.getAttribute('data-layer')?.split('/')[0])
    .filter((id) => id !== null && id !== undefined);
  // What cannot be seen is not caught, nor what is locked.
  return ids.filter((id) =>
    chainTo(layers, id).every((l) => !l.locked && Number(pose[l.id]?.opacity) * Number(pose[l.id]?.visible) > 0),
  );
}

/** What lies beneath a layer under the pointer, on its own level; round and round. */
export function beneathAt(event: MouseEvent, layers: readonly Layer[], pose: Pose, id: string): string | null {
  const depth = chainTo(layers, id).length - 1;
  const level = metAt(event, layers, pose).flatMap((met) => chainTo(layers, met)[depth]?.id ?? []);
  const stack = [...new Set(level)];
  return stack[(stack.indexOf(id) + 1) % stack.length] ?? null;
}

/** The layer under the pointer: the outermost group first, one level deeper with each double click. */
export function caughtAt(
  event: MouseEvent,
  layers: readonly Layer[],
  pose: Pose,
  chosen: readonly string[],
  deeper: boolean,
): string | null {
  const met = metAt(event, layers, pose);
  // A layer that was chosen in the list is held, though another lies above it.
  const id = (!deeper && met.find((found) => chainTo(layers, found).some((l) => chosen.includes(l.id)))) || met[0];
  if (!id) return null;
  const chain = chainTo(layers, id).map((l) => l.id);
  const depth = chain.findIndex((link) => chosen.includes(link));
  // A layer that is chosen already stays so, to be dragged.
  if (depth >= 0) return deeper ? (chain[depth + 1] ?? id) : known(chain[depth]);
  // What lies beside it in the same group is as near.
  const beside = chain.indexOf(chainTo(layers, chosen.at(-1) ?? '').at(-2)?.id ?? '');
  if (beside >= 0) return known(chain[beside + 1]);
  return firstOf(chain);
}
