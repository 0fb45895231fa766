/* Edits of the pieces that stand in a piece. */
import type { Operation, Piece, Value } from '../../../api/contract';
import { placed } from '../tree';
import type { Edit, Scope } from './edit';
import { addLayer } from './layers';
import { shownOf, traitIn } from './traits';
import { baseOf, KEPT_BY_FREE, setCells, setValues, type Cell } from './values';

/** What an original is to whoever places it. */
export type Placeable = Pick<Piece, 'name' | 'width' | 'height' | 'start'>;

/** A copy on top, in the middle, in the state in which the original starts. */
export const addPlacement = (piece: Piece, original: string, { name, width, height, start }: Placeable) =>
  addLayer(piece, 'placement', { width, height, piece: original, state: start }, name);

/** Led by the states of the piece around it, or free. What one way of living has no use for is taken out. */
export function setLife(piece: Piece, id: string, life: 'led' | 'free'): Edit {
  const { layer, path } = placed(piece, id);
  const patch: Operation[] = [{ op: 'add', path: `${path}/life`, value: life }];
  const cells = piece.states.flatMap(({ id: state, changes }) =>
    Object.keys(changes?.[id] ?? {})
      .filter((property) => KEPT_BY_FREE.includes(property))
      .map((property): Cell => ({ state, layer: id, property, value: null })),
  );
  const label = life === 'free' ? `${layer.name} lives free` : `${layer.name} is led`;
  // What is led arrives nowhere by itself: what waited for that waits by a hold.
  const waiting = (piece.transitions ?? []).flatMap(({ cue, cue_layer }, index): Operation[] =>
    life === 'led' && cue === 'reaches' && cue_layer === id
      ? Object.entries({ cue: 'hold', cue_layer: null, cue_state: null }).map(([name, value]) => ({
          op: 'add',
          path: `/transitions/${index}/${name}`,
          value,
        }))
      : [],
  );
  // Before it lives free nothing of it may differ that is the same in all states then.
  return {
    label,
    patch: life === 'free' ? [...setCells(piece, cells, label).patch, ...patch] : [...waiting, ...patch],
  };
}

export type Own = Readonly<Record<string, string | number>>;

/** What a copy says itself of its original's parameters: in a state alone, or in its base. */
export function toldBy(piece: Piece, stateId: string, layer: string, scope: Scope): Own {
  const told = { ...(baseOf(piece, layer, 'values') as unknown as Own) };
  if (scope === 'base') return told;
  const trait = traitIn(piece, scope);
  const of = trait ? shownOf(trait) : piece.states.find((state) => state.id === stateId);
  const changes = of?.changes?.[layer];
  return (changes?.values as Own | null | undefined) ?? {};
}

/** The options that a copy chooses itself, by the traits of its original: in a state alone, or in its base. */
export function optionsBy(piece: Piece, stateId: string, layer: string, scope: Scope): Record<string, string> {
  const changes = piece.states.find((state) => state.id === stateId)?.changes?.[layer];
  const told = scope === 'state' ? changes?.traits : baseOf(piece, layer, 'traits');
  return { ...((told ?? {}) as unknown as Record<string, string>) };
}

/** An option of its own, for a trait of its original; null takes it back to what stands below it. */
export function setOption(
  piece: Piece,
  stateId: string,
  layer: string,
  trait: string,
  option: string | null,
  scope: Scope,
): Edit {
  const others = Object.fromEntries(
    Object.entries(optionsBy(piece, stateId, layer, scope)).filter(([id]) => id !== trait),
  );
  const traits = (option === null ? others : { ...others, [trait]: option }) as unknown as Value;
  if (scope === 'state' && option === null && !Object.keys(others).length)
    return setCells(piece, [{ state: stateId, layer, property: 'traits', value: null }], 'Option as before');
  return setValues(piece, stateId, layer, { traits }, scope);
}

/** A value of its own; null takes it back to what stands below it: the base, or the original. */
export function setOwn(
  piece: Piece,
  stateId: string,
  layer: string,
  [parameter, name]: readonly [id: string, name: string],
  value: string | number | null,
  scope: Scope,
): Edit {
  const others = Object.fromEntries(
    Object.entries(toldBy(piece, stateId, layer, scope)).filter(([id]) => id !== parameter),
  );
  const values = (value === null ? others : { ...others, [parameter]: value }) as unknown as Value;
  const whose = `${name} of ${placed(piece, layer).layer.name}`;
  const label = value === null ? `${whose} as before` : whose;
  if (scope === 'state') {
    const said = Object.keys(values as object).length ? values : null;
    return setCells(piece, [{ state: stateId, layer, property: 'values', value: said }], label);
  }
  return { ...setValues(piece, stateId, layer, { values }, scope), label };
}
