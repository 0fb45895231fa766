/* Traits: kinds in which a piece comes, and what their options say. */
import type { Operation, Option, Piece, Trait } from '../../../api/contract';
import { known } from '../../../shared/known';
import { freeId, type Edit, type Scope } from './edit';

type Looks = NonNullable<Option['changes']>;

export const traitsOf = (piece: Piece): readonly Trait[] => piece.traits ?? [];

/** The option that the piece shows. */
export const shownOf = ({ options, shows }: Trait): Option =>
  options.find(({ id }) => id === shows) ?? known<Option>(options[0]);

/** The trait whose shown option edits of that scope reach. */
export const traitIn = (piece: Piece, scope: Scope): Trait | undefined =>
  traitsOf(piece).find(({ id }) => scope === `option:${id}`);

const withTraits = (traits: readonly Trait[], label: string): Edit => ({
  label,
  patch: [{ op: 'add', path: '/traits', value: traits }],
});

const changed = (piece: Piece, trait: Trait, label: string): Edit =>
  withTraits(
    traitsOf(piece).map((one) => (one.id === trait.id ? trait : one)),
    label,
  );

/** A trait with the piece as it is, and an option beside that, which is shown: what is edited next is its. */
export function addTrait(piece: Piece): Edit & { id: string } {
  const id = freeId(
    traitsOf(piece).map((trait) => trait.id),
    'kind',
  );
  const options: Trait['options'] = [
    { id: 'plain', name: 'Plain' },
    { id: 'other', name: 'Other' },
  ];
  const trait: Trait = { id, name: id, options, shows: 'other' };
  return { id, ...withTraits([...traitsOf(piece), trait], 'Add trait') };
}

export const removeTrait = (piece: Piece, { id, name }: Trait): Edit =>
  withTraits(
    traitsOf(piece).filter((trait) => trait.id !== id),
    `Delete trait ${name}`,
  );

export const renameTrait = (piece: Piece, trait: Trait, name: string): Edit =>
  changed(piece, { ...trait, name }, `Rename trait ${name}`);

/** A new option, which says nothing yet, is shown. */
export function addOption(piece: Piece, trait: Trait): Edit {
  const id = freeId(
    trait.options.map((option) => option.id),
    'other',
  );
  const name = `Other ${trait.options.length}`;
  return changed(piece, { ...trait, options: [...trait.options, { id, name }], shows: id }, `Add ${name}`);
}

export function removeOption(piece: Piece, trait: Trait, { id, name }: Option): Edit {
  const options = trait.options.filter((option) => option.id !== id) as Trait['options'];
  return changed(piece, { ...trait, options, shows: known<Option>(options[0]).id }, `Delete ${name}`);
}

export const renameOption = (piece: Piece, trait: Trait, { id }: Option, name: string): Edit =>
  changed(piece, { ...trait, options: optionsWith(trait, id, { name }) }, `Rename ${name}`);

export const showOption = (piece: Piece, trait: Trait, { id, name }: Option): Edit =>
  changed(piece, { ...trait, shows: id }, `Show ${name}`);

const optionsWith = ({ options }: Trait, id: string, values: Partial<Option>) =>
  options.map((option) => (option.id === id ? { ...option, ...values } : option)) as Trait['options'];

/** What the shown option of a trait says of layers, changed; where nothing is left of a layer, it says nothing. */
export function setInOption(piece: Piece, trait: Trait, looks: Record<string, object>): Operation[] {
  const index = traitsOf(piece).indexOf(trait);
  const shown = shownOf(trait);
  const before = (shown.changes ?? {}) as Record<string, object>;
  const told = Object.entries(looks).map(([layer, values]) => [layer, { ...before[layer], ...values }] as const);
  const value = { ...before, ...Object.fromEntries(told) };
  return [{ op: 'add', path: `/traits/${index}/options/${trait.options.indexOf(shown)}/changes`, value }];
}

/** Takes back what shown options say of layers. */
export function clearInOptions(piece: Piece, ids: readonly string[], label: string): Edit {
  const cleared = traitsOf(piece).map((trait) => {
    const shown = shownOf(trait);
    return { ...trait, options: optionsWith(trait, shown.id, { changes: without(shown.changes ?? {}, ids) }) };
  });
  return withTraits(cleared, label);
}

const without = (changes: Looks, ids: readonly string[]): Looks =>
  Object.fromEntries(Object.entries(changes).filter(([layer]) => !ids.includes(layer)));

/** The options of all traits, each with its JSON pointer. */
export const allOptions = (piece: Piece): { option: Option; path: string }[] =>
  traitsOf(piece).flatMap(({ options }, t) =>
    options.map((option, o) => ({ option, path: `/traits/${t}/options/${o}` })),
  );
