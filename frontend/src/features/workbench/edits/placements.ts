/* Edits of the pieces that stand in a piece. */
import type { Piece, Value } from '../../../api/contract';
import { placed } from '../tree';
import type { Edit, Scope } from './edit';
import { addLayer } from './layers';
import { baseOf, setCells, setValues } from './values';

/** What an original is to whoever places it. */
export type Placeable = Pick<Piece, 'name' | 'width' | 'height' | 'start'>;

/** A copy on top, in the middle, in the state in which the original starts. */
export const addPlacement = (piece: Piece, original: string, { name, width, height, start }: Placeable) =>
  addLayer(piece, 'placement', { width, height, piece: original, state: start }, name);

export type Own = Readonly<Record<string, string | number>>;

/** What a copy says itself of its original's parameters: in a state alone, or in its base. */
export function toldBy(piece: Piece, stateId: string, layer: string, scope: Scope): Own {
  const told = { ...(baseOf(piece, layer, 'values') as unknown as Own) };
  if (scope === 'base') return told;
  const changes = piece.states.find((state) => state.id === stateId)?.changes?.[layer];
  return (changes?.values as Own | null | undefined) ?? {};
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
