/* The box of a group brought to its content; nothing is seen elsewhere for it. Pure. */
import type { Layer, Look, Piece, Pose } from '../../../api/contract';
import { known } from '../../../shared/known';
import { round } from '../../../shared/text/sums';
import { placed, propertyNamed } from '../tree';
import { around, boxInGroup } from './arrange';
import { CannotBe } from './cannotBe';
import { inTurn, type Edit } from './edit';
import { shiftLayer } from './layers';
import { allOptions } from './traits';

const OF_BOX = ['width', 'height', 'pivot_x', 'pivot_y'];

/** The box goes around what the group holds in a pose, and the pivot stays where it is seen. Throws CannotBe where its
 * box changes, or something in it follows the box. */
export function fitGroup(piece: Piece, id: string, pose: Pose): Edit {
  const { layer: group } = placed(piece, id);
  const content = group.kind === 'group' ? (group.layers ?? []) : [];
  if (!content.length) throw new CannotBe(`${group.name} holds nothing that its box could go around.`);
  const look = known(pose[id]);
  if (look.layout !== 'none') throw new CannotBe(`${group.name} is as large as its row or column makes it.`);
  refuse(piece, group, content, pose);
  const box = around(content.map((child) => boxInGroup(child, pose)));
  const [left, top] = [round(box.left), round(box.top)];
  const size = { width: round(box.right - left), height: round(box.bottom - top) };
  if (!(size.width > 0 && size.height > 0)) throw new CannotBe(`What ${group.name} holds has no size.`);
  const values = { ...size, ...pivotIn(look, left, top, size) };
  const path = placed(piece, id).path;
  return inTurn(piece, `Fit ${group.name} to its content`, [
    (now) => shiftLayer(now, id, left, top),
    ...content.map((child) => (now: Piece) => shiftLayer(now, child.id, -left, -top)),
    () => ({
      label: '',
      patch: Object.entries(values).map(([name, value]) => ({ op: 'add', path: `${path}/${name}`, value })),
    }),
  ]);
}

/** In shares of the new box, at the same place: so that turns and scales go on around it. */
function pivotIn(look: Look, left: number, top: number, size: { width: number; height: number }) {
  return {
    pivot_x: round((Number(look.pivot_x) * Number(look.width) - left) / size.width),
    pivot_y: round((Number(look.pivot_y) * Number(look.height) - top) / size.height),
  };
}

function refuse(piece: Piece, group: Layer, content: readonly Layer[], pose: Pose): void {
  const said = [...piece.states, ...allOptions(piece).map(({ option }) => option)];
  const changing = said.find(({ changes }) => OF_BOX.some((name) => name in (changes?.[group.id] ?? {})));
  if (changing)
    throw new CannotBe(
      `${changing.name} has a size or a pivot of ${group.name} of its own. Take it back to the base first.`,
    );
  const follower = content.find(({ id }) =>
    ['resize_x', 'resize_y'].some((rule) => (known(pose[id])[rule] ?? 'start') !== 'start'),
  );
  if (follower)
    throw new CannotBe(`${follower.name} follows the size of ${group.name}. Set its resize rules to start first.`);
  const moved = (layer: string | null | undefined, property: string | null | undefined) =>
    (layer === group.id && ['x', 'y', ...OF_BOX].includes(property ?? '')) ||
    (content.some(({ id }) => id === layer) && ['x', 'y'].includes(property ?? ''));
  const speaking =
    (piece.undercurrents ?? []).find(({ courses }) => courses.some((c) => moved(c.layer, c.property))) ??
    (piece.parameters ?? []).find(({ bind }) => bind.some((b) => moved(b.layer, b.property)));
  if (speaking)
    throw new CannotBe(
      `${speaking.name} sets ${propertyNamed('x').label}, ${propertyNamed('y').label} or the size of something in ${group.name}. Take that out first.`,
    );
}
