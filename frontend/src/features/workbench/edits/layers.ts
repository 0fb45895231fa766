/* Edits of the tree of layers. */
import type { Layer, Operation, Piece, Transition, Value } from '../../../api/contract';
import { placed, walk } from '../tree';
import { freeId, freeNameAmong, inTurn, named, type Edit } from './edit';
import { allOptions } from './traits';
import { known } from '../../../shared/known';
import { round } from '../../../shared/text/sums';

/** What can be added from nothing. */
export type Drawn = Exclude<Layer['kind'], 'picture' | 'medium' | 'placement'>;

const FRESH: Record<Drawn, { width: number; height: number }> = {
  rectangle: { width: 80, height: 48, ...{ fill: '#1f7a70' } },
  ellipse: { width: 56, height: 56, ...{ fill: '#b9832b' } },
  path: {
    width: 64,
    height: 32,
    ...{ view_width: 64, view_height: 32, path: 'M0 32L32 0L64 32', fill: 'none', stroke: '#15293b', stroke_width: 4 },
  },
  text: { width: 120, height: 24, ...{ text: 'Text', fill: '#15293b', font_size: 16 } },
  group: { width: 96, height: 64, ...{ layers: [] } },
};

export const idsOf = (piece: Piece) => walk(piece.layers ?? []).map((p) => p.layer.id);
export const freeLayerName = (piece: Piece, wanted: string) =>
  freeNameAmong(new Set(walk(piece.layers ?? []).map((p) => p.layer.name)), wanted);

/** A new layer on top, of the piece or of a group, and in the middle of that unless it says where. */
export function addLayer(
  piece: Piece,
  kind: Layer['kind'],
  values: object = FRESH[kind as Drawn],
  wanted = known(kind[0]).toUpperCase() + kind.slice(1),
  into: string | null = null,
): Edit & { id: string } {
  const name = freeLayerName(piece, wanted);
  const size = values as { width: number; height: number };
  const id = freeId(idsOf(piece), name);
  const group = into ? placed(piece, into) : null;
  const room = group?.layer ?? piece;
  const x = Math.round((room.width - size.width) / 2);
  const y = Math.round((room.height - size.height) / 2);
  const layer = { kind, id, name, x, y, ...values };
  const patch: Operation[] = group
    ? [{ op: 'add', path: `${group.path}/layers/-`, value: layer }]
    : piece.layers
      ? [{ op: 'add', path: '/layers/-', value: layer }]
      : [{ op: 'add', path: '/layers', value: [layer] }];
  return { id, label: `Add ${name.toLowerCase()}`, patch };
}

/** The layer with everything inside it, by ids that are free; `taken` and `renamed` learn them. */
export function withFreeIds(layer: Layer, taken: Set<string>, renamed = new Map<string, string>()): Layer {
  const id = freeId(taken, layer.id);
  taken.add(id);
  renamed.set(layer.id, id);
  const inner =
    layer.kind === 'group' ? { layers: (layer.layers ?? []).map((each) => withFreeIds(each, taken, renamed)) } : {};
  return { ...layer, ...inner, id } as Layer;
}

/** A copy just above, with everything inside it, and with its differences in every state. */
export function duplicateLayer(piece: Piece, id: string): Edit & { id: string } {
  const { layer, path, index } = placed(piece, id);
  const taken = new Set(idsOf(piece));
  const renamed = new Map<string, string>();
  const value = { ...withFreeIds(layer, taken, renamed), name: freeLayerName(piece, layer.name) };
  const patch: Operation[] = [{ op: 'add', path: path.replace(/\d+$/, String(index + 1)), value }];
  piece.states.forEach((state, s) => {
    for (const [from, to] of renamed) {
      const changes = state.changes?.[from];
      if (changes) patch.push({ op: 'add', path: `/states/${s}/changes/${to}`, value: changes });
    }
  });
  allOptions(piece).forEach(({ option, path: of }) => {
    for (const [from, to] of renamed) {
      const changes = option.changes?.[from];
      if (changes) patch.push({ op: 'add', path: `${of}/changes/${to}`, value: changes });
    }
  });
  (piece.transitions ?? []).forEach((transition, t) => {
    for (const [name, value] of Object.entries(withCopies(transition, renamed)))
      patch.push({ op: 'add', path: `/transitions/${t}/${name}`, value });
  });
  return { id: known(renamed.get(id)), label: `Duplicate ${layer.name}`, patch };
}

/** The lanes of copies, as those of what they were made of, and their places in its staggers, just behind it. */
function withCopies(
  { lanes = [], staggers = [] }: Transition,
  renamed: ReadonlyMap<string, string>,
): Partial<Transition> {
  const copied = lanes
    .filter((lane) => renamed.has(lane.layer))
    .map((lane) => ({
      ...lane,
      layer: known(renamed.get(lane.layer)),
      ...(lane.anchor && {
        anchor: {
          ...lane.anchor,
          ...(lane.anchor.layer && { layer: renamed.get(lane.anchor.layer) ?? lane.anchor.layer }),
        },
      }),
    }));
  const isStaggered = staggers.some((stagger) => stagger.layers.some((id) => renamed.has(id)));
  const longer = staggers.map((stagger) => ({
    ...stagger,
    layers: stagger.layers.flatMap((id) => (renamed.has(id) ? [id, known(renamed.get(id))] : [id])),
  }));
  return {
    ...(copied.length && { lanes: [...lanes, ...copied] }),
    ...(isStaggered && { staggers: longer as NonNullable<Transition['staggers']> }),
  };
}

/** Copies of several, each just above its own, and in all states so many px away from it. */
export function duplicateLayers(
  piece: Piece,
  ids: readonly string[],
  away: (id: string) => readonly [number, number] = () => [0, 0],
): Edit & { ids: string[] } {
  const made: string[] = [];
  const copy = (id: string) => (now: Piece) => {
    const one = duplicateLayer(now, id);
    made.push(one.id);
    return one;
  };
  const steps = ids.flatMap((id, i) => [copy(id), (now: Piece) => shiftLayer(now, known(made[i]), ...away(id))]);
  return { ...inTurn(piece, `Duplicate ${namesOf(piece, ids)}`, steps), ids: made };
}

/** Moves a layer by so many px of what surrounds it, in the base, in every state and in every option. */
export function shiftLayer(piece: Piece, id: string, dx: number, dy: number): Edit {
  const { layer, path } = placed(piece, id);
  const patch = (
    [
      ['x', dx],
      ['y', dy],
    ] as const
  ).flatMap(([name, by]): Operation[] => {
    if (!by) return [];
    const said = [
      ...piece.states.map(({ changes }, s) => ({ changes, at: `/states/${s}` })),
      ...allOptions(piece).map(({ option: { changes }, path: at }) => ({ changes, at })),
    ];
    const own = said.flatMap(({ changes, at }): Operation[] => {
      const value = changes?.[id]?.[name];
      return typeof value !== 'number'
        ? []
        : [{ op: 'replace', path: `${at}/changes/${id}/${name}`, value: round(value + by) }];
    });
    return [{ op: 'replace', path: `${path}/${name}`, value: round(layer[name] + by) }, ...own];
  });
  return { label: `Move ${layer.name}`, patch };
}

export const namesOf = (piece: Piece, ids: readonly string[]) =>
  named(
    ids.map((id) => placed(piece, id).layer.name),
    'layers',
  );

export function renameLayer(piece: Piece, id: string, name: string): Edit {
  return {
    label: `Rename layer to ${name}`,
    patch: [{ op: 'replace', path: `${placed(piece, id).path}/name`, value: name }],
  };
}

/** Moves a layer among its siblings, upwards in the picture with a positive `by`. */
export function moveLayer(piece: Piece, id: string, by: number): Edit {
  const { layer, path, index, siblings } = placed(piece, id);
  const to = Math.min(Math.max(index + by, 0), siblings.length - 1);
  return {
    label: `Move ${layer.name} ${by > 0 ? 'up' : 'down'}`,
    patch: to === index ? [] : [{ op: 'move', from: path, path: path.replace(/\d+$/, String(to)) }],
  };
}

export const isShape = ({ kind }: Layer): boolean => ['rectangle', 'ellipse', 'path'].includes(kind);

/** Sets what no state can differ in. */
export function setFixed(piece: Piece, ids: string | readonly string[], name: string, value: Value): Edit {
  const all = typeof ids === 'string' ? [ids] : ids;
  return {
    label: `${name.replace('_', ' ')} of ${namesOf(piece, all)}`,
    patch: all.map((id) => ({ op: 'add', path: `${placed(piece, id).path}/${name}`, value })),
  };
}
