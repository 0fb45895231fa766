/* Edits of the values that layers have: of all states, or of some. */
import type { Operation, Piece, Value } from '../../../api/contract';
import { sameValue } from '../../../shared/text/values';
import { placed, propertyNamed, stateNamed } from '../tree';
import { named, stateIndex, type Edit, type Scope } from './edit';
import { known } from '../../../shared/known';
import { CannotBe } from './cannotBe';
import { setInOption, shownOf, traitIn } from './traits';

/** What is around a copy that lives free only moves its place: this it has in all states alike. */
export const KEPT_BY_FREE = ['state', 'width', 'height'];
const isKept = (piece: Piece, id: string, property: string) => {
  const { layer } = placed(piece, id);
  return layer.kind === 'placement' && layer.life === 'free' && KEPT_BY_FREE.includes(property);
};

/** One value of the score; null takes it back to the base. */
export interface Cell {
  state: string;
  layer: string;
  property: string;
  value: Value | null;
}

export type Values = Record<string, Value>;
type Looks = Record<string, Values>;

const labels = (properties: readonly string[]) =>
  [...new Set(properties)].map((name) => propertyNamed(name).label).join(', ');
const nameOf = (piece: Piece, layer: string) => placed(piece, layer).layer.name;

/** Sets values in one state or in the base, of one layer or of several. */
export function setValues(
  piece: Piece,
  stateId: string,
  layers: string | readonly string[],
  values: Values,
  scope: Scope,
): Edit {
  const ids = typeof layers === 'string' ? [layers] : layers;
  return setLooks(piece, stateId, Object.fromEntries(ids.map((id) => [id, values])), scope);
}

/** The same with values of its own for each layer. */
export function setLooks(piece: Piece, stateId: string, looks: Looks, scope: Scope): Edit {
  const ids = Object.keys(looks);
  const properties = labels(Object.values(looks).flatMap((values) => Object.keys(values)));
  const whose = `${properties} of ${named(
    ids.map((id) => nameOf(piece, id)),
    'layers',
  )}`;
  const cells = ids.flatMap((layer) =>
    Object.entries(known(looks[layer])).map(([property, value]): Cell => ({ state: stateId, layer, property, value })),
  );
  const trait = traitIn(piece, scope);
  if (trait) return { label: `${whose}, ${shownOf(trait).name}`, patch: setInOption(piece, trait, looks) };
  const isOfAll = ({ layer, property }: Cell) => scope === 'base' || isKept(piece, layer, property);
  const patch = cells.filter(isOfAll).map(({ layer, property, value }): Operation => ({
    op: 'add',
    path: `${placed(piece, layer).path}/${property}`,
    value,
  }));
  const own = cells.filter((cell) => !isOfAll(cell));
  patch.push(...namesAfterTexts(piece, cells.filter(isOfAll)));
  if (!own.length) return { label: `${whose}, all states`, patch };
  const edit = setCells(piece, own, `${whose} in ${stateNamed(piece, stateId).name}`);
  return { ...edit, patch: [...patch, ...edit.patch] };
}

const LONGEST_OF_TEXT = 40;
const asName = (text: unknown) => String(text).replace(/\s+/g, ' ').trim().slice(0, LONGEST_OF_TEXT);

/** Also with the number that a copy has got. */
const isCalledBy = (name: string, words: string) =>
  name.startsWith(words) && /^(?: \d+)?$/.test(name.slice(words.length));

/** Until it is renamed a text is called by its words. */
function namesAfterTexts(piece: Piece, cells: readonly Cell[]): Operation[] {
  return cells.flatMap(({ layer: id, property, value }): Operation[] => {
    const { layer, path } = placed(piece, id);
    if (property !== 'text' || layer.kind !== 'text' || !isCalledBy(layer.name, asName(layer.text))) return [];
    return asName(value) ? [{ op: 'replace', path: `${path}/name`, value: asName(value) }] : [];
  });
}

/** Back to the base value. */
export const clearValue = (piece: Piece, stateId: string, layer: string, property: string): Edit =>
  backToBase(piece, [{ state: stateId, layer, property, value: null }]);

/** The same for several values, such as those that `ownValues` tells. */
export function backToBase(piece: Piece, cells: readonly Cell[]): Edit {
  const names = [...new Set(cells.map(({ layer }) => nameOf(piece, layer)))];
  const label = `${labels(cells.map(({ property }) => property))} of ${named(names, 'layers')} back to base`;
  return setCells(piece, cells, label);
}

/** What a state says of these layers by itself, as cells that take it back to the base. */
export function ownValues(piece: Piece, stateId: string, layers: readonly string[]): Cell[] {
  const changes = (piece.states[stateIndex(piece, stateId)]?.changes ?? {}) as Looks;
  return layers.flatMap((layer) =>
    Object.keys(changes[layer] ?? {}).map((property): Cell => ({ state: stateId, layer, property, value: null })),
  );
}

/** Sets cells of the score, wherever they stand. A value of a state stays its own, also where the base has the same. */
export function setCells(piece: Piece, cells: readonly Cell[], label: string): Edit {
  const kept = cells.find(({ layer, property, value }) => value !== null && isKept(piece, layer, property));
  if (kept) {
    const { name } = placed(piece, kept.layer).layer;
    throw new CannotBe(
      `${name} lives free: its ${labels([kept.property])} is the same in all states. Set it in the inspector.`,
    );
  }
  const patch = piece.states.flatMap((state, index) => {
    const own = cells.filter((cell) => cell.state === state.id);
    return own.length ? changesOf(piece, index, own) : [];
  });
  return { label, patch };
}

function changesOf(piece: Piece, index: number, cells: readonly Cell[]): Operation[] {
  const path = `/states/${index}/changes`;
  const before = (known(piece.states[index]).changes ?? {}) as Looks;
  const after: Looks = {};
  for (const { layer, property, value } of cells) {
    const values = (after[layer] ??= { ...before[layer] });
    if (value === null) delete values[property];
    else values[property] = value;
  }
  const said = Object.entries(after).filter(([, values]) => Object.keys(values).length);
  if (!known(piece.states[index]).changes)
    return said.length ? [{ op: 'add', path, value: Object.fromEntries(said) }] : [];
  return Object.entries(after).flatMap(([layer, values]): Operation[] => {
    if (sameValue(values as never, (before[layer] ?? {}) as never)) return [];
    if (Object.keys(values).length) return [{ op: 'add', path: `${path}/${layer}`, value: values }];
    return [{ op: 'remove', path: `${path}/${layer}` }];
  });
}

/** What the layer has where a state says nothing. */
export function baseOf(piece: Piece, layer: string, property: string): Value {
  const base = placed(piece, layer).layer as unknown as Values;
  return base[property] ?? (propertyNamed(property).default as Value);
}

/** What an edit of that scope goes on from: the value of the state, or what all states share. */
export function valueOf(piece: Piece, stateId: string, layer: string, property: string, scope: Scope): Value {
  const trait = traitIn(piece, scope);
  const of = trait ? shownOf(trait) : scope === 'state' ? piece.states.find((state) => state.id === stateId) : null;
  return (of?.changes as Looks | null | undefined)?.[layer]?.[property] ?? baseOf(piece, layer, property);
}
