/* What copies of a piece may set: values of it, by name. */
import type { Bind, Operation, Parameter, Piece, Value } from '../../../api/contract';
import type { Property } from '../../../api/generated/catalogue';
import { placed, propertyNamed, stateNamed, transitionNamed } from '../tree';
import { freeId, type Edit } from './edit';

const parametersOf = (piece: Piece): readonly Parameter[] => piece.parameters ?? [];

/** What kind of parameter a property can be, as it stands; none for what only the piece itself sets. */
export function kindOfParameter(property: Property, value: Value | undefined): Parameter['kind'] | null {
  if (!property.varies) return null;
  if (property.name === 'text') return 'text';
  if (property.name === 'source') return 'picture';
  if (property.blend === 'paint') return typeof value === 'string' ? 'colour' : null;
  return property.blend === 'linear' ? 'number' : null;
}

const binds = (bind: Bind, to: Bind) =>
  (['layer', 'property', 'parameter', 'transition', 'undercurrent'] as const).every(
    (name) => (bind[name] ?? null) === (to[name] ?? null),
  ) && !!bind.hold === !!to.hold;

/** The parameter that is bound there, if one is. */
export const parameterAt = (piece: Piece, to: Bind): Parameter | undefined =>
  parametersOf(piece).find((parameter) => parameter.bind.some((bind) => binds(bind, to)));

/** Lets copies set a value. */
export function offer(piece: Piece, kind: Parameter['kind'], bind: Bind, name: string): Edit {
  const all = parametersOf(piece);
  const id = freeId(
    all.map((parameter) => parameter.id),
    name,
  );
  return {
    label: `Let copies set ${name}`,
    patch: [{ op: 'add', path: '/parameters', value: [...all, { id, name, kind, bind: [bind] }] }],
  };
}

/** Takes one place from it; with the last of them the parameter goes. */
export const withdrawAt = (piece: Piece, { name }: Parameter, at: Bind): Edit => ({
  label: `${name} is the piece’s own again`,
  patch: unbound(piece, (bind) => binds(bind, at)),
});

export function withdraw(piece: Piece, { id, name }: Parameter): Edit {
  const kept = parametersOf(piece).filter((parameter) => parameter.id !== id);
  return { label: `${name} is the piece’s own again`, patch: [{ op: 'add', path: '/parameters', value: kept }] };
}

/** Only the name: copies know it by its id. */
export function renameParameter(piece: Piece, { id }: Parameter, name: string): Edit {
  const index = parametersOf(piece).findIndex((parameter) => parameter.id === id);
  return { label: `Rename ${name}`, patch: [{ op: 'add', path: `/parameters/${index}/name`, value: name }] };
}

/** Where a parameter goes, in words. */
export function goesTo(piece: Piece, { bind }: Parameter): string {
  const places = bind.map(({ layer, property, state, transition, hold, parameter, undercurrent }) => {
    if (layer && parameter) return `${parameter} of ${placed(piece, layer).layer.name}`;
    if (layer && property) {
      const where = `${propertyNamed(property).label} of ${placed(piece, layer).layer.name}`;
      return state ? `${where} in ${stateNamed(piece, state).name}` : where;
    }
    if (!transition)
      return `period of ${piece.undercurrents?.find(({ id }) => id === undercurrent)?.name ?? 'an undercurrent'}`;
    const { from, to } = transitionNamed(piece, transition);
    if (hold) return `hold in ${stateNamed(piece, from).name}`;
    return `duration ${stateNamed(piece, from).name} → ${stateNamed(piece, to).name}`;
  });
  return places.length > 1 ? `${places[0]} and ${places.length - 1} more` : (places[0] ?? '');
}

/** What takes the bindings away that lead to what is gone; a parameter that leads nowhere goes with them. */
export function unbound(piece: Piece, isGone: (bind: Bind) => boolean): Operation[] {
  const all = parametersOf(piece);
  if (!all.some(({ bind }) => bind.some(isGone))) return [];
  const kept = all
    .map((parameter) => ({ ...parameter, bind: parameter.bind.filter((bind) => !isGone(bind)) }))
    .filter(({ bind }) => bind.length);
  return [{ op: 'add', path: '/parameters', value: kept }];
}
