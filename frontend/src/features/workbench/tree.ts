/* Looking things up in a document. Pure. */
import { PROPERTIES, type Property } from '../../api/generated/catalogue';
import type { Layer, Piece, Pose } from '../../api/contract';
import { chainTo } from '../../shared/geometry/matrix';
import { known } from '../../shared/known';
import { sameValue } from '../../shared/text/values';

export interface Placed {
  layer: Layer;
  /** JSON pointer */
  path: string;
  depth: number;
  siblings: readonly Layer[];
  index: number;
}

/** Every layer in painting order, groups before their content. */
export function walk(layers: readonly Layer[], path = '/layers', depth = 0): Placed[] {
  return layers.flatMap((layer, index) => {
    const here = { layer, path: `${path}/${index}`, depth, siblings: layers, index };
    return layer.kind === 'group' ? [here, ...walk(layer.layers ?? [], `${here.path}/layers`, depth + 1)] : [here];
  });
}

/** Where a layer is, if it is. */
export const placeOf = (piece: Piece, id: string): Placed | undefined =>
  walk(piece.layers ?? []).find((p) => p.layer.id === id);
/** The same of one that is known to be there. */
export const placed = (piece: Piece, id: string): Placed => known(placeOf(piece, id));
export const stateNamed = (piece: Piece, id: string) => known(piece.states.find((state) => state.id === id));
export const transitionNamed = (piece: Piece, id: string) =>
  known(piece.transitions?.find((transition) => transition.id === id));

/** A layer's name, with that of its group where others are called the same; what lies in a copy by that of the copy. */
export function labelOf(piece: Piece, path: string): string {
  const id = path.split('/')[0] ?? '';
  const names = walk(piece.layers ?? []).map((p) => p.layer.name);
  const [layer, group] = chainTo(piece.layers ?? [], id).toReversed();
  if (!layer) return '';
  return group && names.filter((name) => name === layer.name).length > 1 ? `${group.name} ${layer.name}` : layer.name;
}

/** As a list is read: what lies on top stands first, a group before its content. */
export function fromTheTop(layers: readonly Layer[], path = '/layers', depth = 0): Placed[] {
  return layers
    .map((layer, index) => ({ layer, path: `${path}/${index}`, depth, siblings: layers, index }))
    .reverse()
    .flatMap((here) =>
      here.layer.kind === 'group'
        ? [here, ...fromTheTop(here.layer.layers ?? [], `${here.path}/layers`, depth + 1)]
        : [here],
    );
}

/** Without what lies inside closed groups. */
export function shownRows(rows: readonly Placed[], isOpen: (row: Placed) => boolean): Placed[] {
  let hiddenBelow = Infinity;
  return rows.filter((row) => {
    if (row.depth > hiddenBelow) return false;
    hiddenBelow = row.layer.kind === 'group' && !isOpen(row) ? row.depth : Infinity;
    return true;
  });
}

/** What poses show of a layer; the values of a copy have gone into its layers. */
export const propertiesOf = (layer: Layer): Property[] =>
  PROPERTIES.filter((p) => p.kinds.includes(layer.kind) && p.name !== 'values');
export const propertyNamed = (name: string): Property => known(PROPERTIES.find((p) => p.name === name));

/** A row of the score: layer and property, joined by a slash. */
export type RowKey = `${string}/${string}`;

export const rowOf = (key: RowKey): [layer: string, property: string] => [
  key.slice(0, key.lastIndexOf('/')),
  key.slice(key.lastIndexOf('/') + 1),
];

/** The rows of the score: what differs between any two poses, all of the chosen layers (ids, joined by commas), or all; and what was asked for besides. */
export function rowsOf(
  piece: Piece,
  poses: Record<string, Pose>,
  asked: readonly string[],
  filter: 'changes' | 'chosen' | 'all',
  chosen: string,
): RowKey[] {
  const all = piece.states.map((state) => poses[state.id]).filter((pose) => pose !== undefined);
  const ids = chosen.split(',');
  const differs = (layer: string, name: string) => {
    const first = all[0]?.[layer]?.[name];
    return all.some((pose) => !sameValue(pose[layer]?.[name], first));
  };
  // What an option that is shown says is looked at with what the states say.
  const said = (piece.traits ?? []).map(({ options, shows }) => options.find(({ id }) => id === shows)?.changes ?? {});
  const saidOf = (layer: string, name: string) =>
    said.some((changes) => Object.keys(changes[layer] ?? {}).includes(name));
  const isShown = (layer: string, name: string) =>
    filter === 'all' || (filter === 'chosen' ? ids.includes(layer) : differs(layer, name) || saidOf(layer, name));
  return walk(piece.layers ?? []).flatMap(({ layer }) =>
    propertiesOf(layer)
      .filter((p) => p.varies && (asked.includes(`${layer.id}/${p.name}`) || isShown(layer.id, p.name)))
      .map((p): RowKey => `${layer.id}/${p.name}`),
  );
}

/** How many rows a score with everything would have. */
export const countProperties = (layers: readonly Layer[]): number =>
  walk(layers).reduce((sum, { layer }) => sum + propertiesOf(layer).filter((p) => p.varies).length, 0);
