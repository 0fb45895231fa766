/* Layers put into a group, and taken out of one, so that every state looks as before. */
import equal from 'fast-deep-equal';
import { PROPERTIES } from '../../../api/generated/catalogue';
import type { Layer, Look, Operation, Piece, Pose, Value } from '../../../api/contract';
import { chainTo, TRANSFORMS } from '../../../shared/geometry/matrix';
import { placed } from '../tree';
import { round } from '../../../shared/text/sums';
import { around, boxInGroup } from './arrange';
import { CannotBe } from './cannotBe';
import { freeId, type Edit } from './edit';
import { idsOf, namesOf } from './layers';
import type { Values } from './values';
import { firstOf, known, lastOf } from '../../../shared/known';
import { textOf } from '../../../shared/text/values';

type Shift = { x: number; y: number };

/** A group around layers that lie side by side; its box is theirs in the pose. */
export function groupLayers(piece: Piece, ids: readonly string[], pose: Pose): Edit & { id: string } {
  const found = ids.map((id) => placed(piece, id)).sort((a, b) => a.index - b.index);
  const last = lastOf(found);
  if (found.some((p) => p.siblings !== last.siblings))
    throw new CannotBe('These layers lie in different groups. Choose layers that lie in the same one.');
  const parent = chainTo(piece.layers ?? [], firstOf(ids)).at(-2);
  if (parent && known(pose[parent.id]).layout !== 'none')
    throw new CannotBe(
      `${parent.name} places what is in it in a ${textOf(known(pose[parent.id]).layout)}. Set its layout to none first.`,
    );
  const mask = found.find(({ layer }) => layer.mask);
  if (mask && last.index < last.siblings.length - 1)
    throw new CannotBe(
      `${mask.layer.name} cuts what lies above it, and in a group it would cut less. Choose all that lies above it too, or turn the mask off first.`,
    );
  const box = around(found.map(({ layer }) => boxInGroup(layer, pose)));
  const [x, y] = [round(box.left), round(box.top)];
  const id = freeId(idsOf(piece), 'group');
  const layers = found.map(({ layer }) => ({ ...layer, x: layer.x - x, y: layer.y - y }));
  const group = {
    kind: 'group',
    id,
    name: 'Group',
    x,
    y,
    width: round(box.right - x),
    height: round(box.bottom - y),
    layers,
  };
  const removed = found.toReversed().map(({ path }): Operation => ({ op: 'remove', path }));
  const path = last.path.replace(/\d+$/, String(last.index - found.length + 1));
  const shifts = new Map(ids.map((child) => [child, () => ({ x: -x, y: -y })]));
  return {
    id,
    label: `Group ${namesOf(piece, ids)}`,
    patch: [...removed, { op: 'add', path, value: group }, ...shiftedStates(piece, shifts)],
  };
}

/** What a group does besides standing somewhere; its content would look different without it. */
const OF_LOOK = ['Look', 'Shadow and blur', 'Colour filters'];
const BARE: [string, Value][] = [
  ...TRANSFORMS,
  ...PROPERTIES.filter(({ kinds, group }) => kinds.includes('group') && OF_LOOK.includes(group)).map(
    (row): [string, Value] => [row.name, row.default as Value],
  ),
  ['layout', 'none'],
];

/** The content of a group in its place. */
export function ungroup(piece: Piece, id: string): Edit & { ids: string[] } {
  const { layer, path, index } = placed(piece, id);
  if (layer.kind !== 'group') throw new CannotBe(`${layer.name} is no group. Choose a group.`);
  const looks = [layer as unknown as Look, ...piece.states.map((s) => (s.changes?.[id] ?? {}) as Look)];
  const acting = BARE.find(([name, rest]) => looks.some((look) => look[name] !== undefined && look[name] !== rest));
  if (acting)
    throw new CannotBe(
      `${layer.name} sets ${acting[0].replace('_', ' ')} for all that is in it. Take that back to ${textOf(acting[1])} first, so that nothing looks different.`,
    );
  if (looks.slice(1).some((look) => 'width' in look || 'height' in look))
    throw new CannotBe(
      `${layer.name} changes its size between states. Keep one size first, so that nothing looks different.`,
    );
  const content = (layer.layers ?? []) as Layer[];
  const mask = content.find((child) => child.mask);
  if (mask)
    throw new CannotBe(
      `${mask.name} cuts what lies above it in ${layer.name}; outside of it, it would cut everything above. Turn the mask off first, or keep the group.`,
    );
  const added = content.map((child, i): Operation => ({
    op: 'add',
    path: path.replace(/\d+$/, String(index + i)),
    value: { ...child, x: child.x + layer.x, y: child.y + layer.y },
  }));
  const shifts = new Map(
    content.map((child) => [child.id, (own: Partial<Shift>) => ({ x: own.x ?? layer.x, y: own.y ?? layer.y })]),
  );
  const moved = shiftedStates(piece, shifts, id, layer);
  return {
    ids: content.map((child) => child.id),
    label: `Ungroup ${layer.name}`,
    patch: [{ op: 'remove', path }, ...added, ...moved, ...lanesOf(piece, id, content)],
  };
}

/** Every state's own x and y of these layers moved; those of `around`, a group that is gone, handed on to them. */
function shiftedStates(
  piece: Piece,
  shifts: ReadonlyMap<string, (around: Partial<Shift>) => Shift>,
  around?: string,
  group?: Shift,
): Operation[] {
  return piece.states.flatMap((state, s) => {
    const before = (state.changes ?? {}) as Record<string, Values>;
    const outer = (around ? (before[around] ?? {}) : {}) as Partial<Shift>;
    const after = Object.fromEntries(Object.entries(before).filter(([id]) => id !== around));
    for (const [id, shiftOf] of shifts) {
      const shift = shiftOf(outer);
      const base = placed(piece, id).layer;
      for (const name of ['x', 'y'] as const) {
        const own = before[id]?.[name];
        if (own === undefined && (!group || outer[name] === undefined)) continue;
        after[id] = { ...after[id], [name]: Number(own ?? base[name]) + shift[name] };
      }
    }
    return equal(after, before) ? [] : [{ op: 'add', path: `/states/${s}/changes`, value: after }];
  });
}

/** The lanes of a group that is gone go on to its content, where that has none of its own. */
function lanesOf(piece: Piece, id: string, content: readonly Layer[]): Operation[] {
  return (piece.transitions ?? []).flatMap((transition, t): Operation[] => {
    const lanes = transition.lanes ?? [];
    const own = lanes.filter((lane) => lane.layer === id);
    if (!own.length) return [];
    const heirs = content.flatMap((child) =>
      own
        .filter((lane) => !lanes.some((l) => l.layer === child.id && l.property === lane.property))
        .map((lane) => ({ ...lane, layer: child.id })),
    );
    return [
      { op: 'add', path: `/transitions/${t}/lanes`, value: [...lanes.filter((lane) => lane.layer !== id), ...heirs] },
    ];
  });
}
