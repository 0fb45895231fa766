/* Edits of the fonts that a piece brings, and of places on their axes. */
import type { AxisFacts, AxisPlace, FontFacts, FontTaken, Operation, Piece, Value } from '../../../api/contract';
import { FONTS } from '../../../api/generated/catalogue';
import { known } from '../../../shared/known';
import { placed, walk } from '../tree';
import type { Edit, Scope } from './edit';
import { CannotBe } from './cannotBe';
import { baseOf, setLooks, valueOf, type Values } from './values';

export const FAMILY = 'font_family';
export const AXES = 'font_axes';

export const fontsOf = ({ fonts }: Pick<Piece, 'fonts'>) => fonts ?? [];

/** The name under which a font comes: one that is shipped keeps its own. */
export const freeFamily = (family: string): string => (FONTS.includes(family) ? `${family} 2` : family);

/** Adds a file to its family. One that shows the same letters in the same weights takes the place of the older one. */
export function bringFont(piece: Piece, taken: FontTaken, facts: FontFacts | undefined): Edit {
  const family = freeFamily(taken.family);
  const label = `Bring in ${family}`;
  const index = fontsOf(piece).findIndex((own) => own.family === family);
  if (index < 0) return { label, patch: addFamily(piece, family, [taken.source]) };
  const files = known(fontsOf(piece)[index]).files;
  if (files.includes(taken.source)) return { label, patch: [] };
  const older = files.findIndex((source) => {
    const file = facts?.files.find((each) => each.source === source);
    return file && String(file.weights) === String(taken.weights) && showsSame(file.characters, taken.characters);
  });
  const path = `/fonts/${index}/files/${older < 0 ? '-' : older}`;
  return { label, patch: [{ op: older < 0 ? 'add' : 'replace', path, value: taken.source }] };
}

/** A family of another piece, as that has it. */
export const shareFont = (piece: Piece, family: string, files: readonly string[]): Edit => ({
  label: `Bring in ${family}`,
  patch: fontsOf(piece).some((own) => own.family === family) ? [] : addFamily(piece, family, files),
});

function addFamily(piece: Piece, family: string, files: readonly string[]): Operation[] {
  const value = { family, files };
  return [piece.fonts ? { op: 'add', path: '/fonts/-', value } : { op: 'add', path: '/fonts', value: [value] }];
}

/** Out of the piece. Throws CannotBe while texts are set in it. */
export function dropFont(piece: Piece, family: string): Edit {
  const [first] = textsIn(piece, family);
  if (first !== undefined)
    throw new CannotBe(`${placed(piece, first).layer.name} is set in ${family}. Choose another family there first.`);
  const index = fontsOf(piece).findIndex((own) => own.family === family);
  return { label: `Remove ${family}`, patch: [{ op: 'remove', path: `/fonts/${index}` }] };
}

/** The layers that are set in a family, in any state. */
export function textsIn(piece: Piece, family: string): string[] {
  const said = [...piece.states, ...(piece.traits ?? []).flatMap(({ options }) => options)];
  const isSet = (id: string) =>
    baseOf(piece, id, FAMILY) === family ||
    said.some(({ changes }) => (changes as Record<string, Values> | undefined)?.[id]?.[FAMILY] === family);
  return walk(piece.layers ?? []).flatMap(({ layer }) => (layer.kind === 'text' && isSet(layer.id) ? [layer.id] : []));
}

/** Texts at a place of an axis. The layers say all axes of the font from then on, so that states can differ in them. */
export function setAxis(
  piece: Piece,
  state: string,
  ids: readonly string[],
  { tag, value, axes, scope }: { tag: string; value: number; axes: readonly AxisFacts[]; scope: Scope },
): Edit {
  const patch = ids.flatMap((id) => withAxes(piece, id, axes));
  const at = (id: string) => axisPlaces(valueOf(piece, state, id, AXES, scope), axes);
  const looks = Object.fromEntries(
    ids.map((id) => [id, { [AXES]: at(id).map((own) => (own.axis === tag ? { ...own, value } : own)) }]),
  );
  const set = setLooks(piece, state, looks, scope);
  return {
    ...set,
    label: set.label.replace('axes', known(axes.find((axis) => axis.tag === tag)).name),
    patch: [...patch, ...set.patch],
  };
}

/** All axes of a font, where nothing is said at what it has itself; others that are said stay. */
export function axisPlaces(said: Value, axes: readonly AxisFacts[]): AxisPlace[] {
  const places = said as readonly AxisPlace[];
  const own = axes
    .filter(({ tag }) => !places.some(({ axis }) => axis === tag))
    .map(({ tag, default: value }) => ({ axis: tag, value }));
  return [...places, ...own];
}

/** The layer, and whatever says axes of it, with all axes of its font. */
function withAxes(piece: Piece, id: string, axes: readonly AxisFacts[]): Operation[] {
  const base = baseOf(piece, id, AXES);
  if (axisPlaces(base, axes).length === (base as readonly AxisPlace[]).length) return [];
  const said = (path: string, changes: unknown): Operation[] => {
    const own = (changes as Record<string, Values> | undefined)?.[id]?.[AXES];
    return own === undefined
      ? []
      : [{ op: 'add', path: `${path}/changes/${id}/${AXES}`, value: axisPlaces(own, axes) }];
  };
  return [
    { op: 'add', path: `${placed(piece, id).path}/${AXES}`, value: axisPlaces(base, axes) },
    ...piece.states.flatMap(({ changes }, i) => said(`/states/${i}`, changes)),
    ...(piece.traits ?? []).flatMap(({ options }, i) =>
      options.flatMap(({ changes }, j) => said(`/traits/${i}/options/${j}`, changes)),
    ),
  ];
}

/** Whether half of what the first shows, or more, is shown by the second too; both as a unicode-range. */
function showsSame(first: string, second: string): boolean {
  const [own, others] = [spans(first), spans(second)];
  const count = own.reduce((sum, [a, b]) => sum + b - a + 1, 0);
  const shared = own
    .flatMap(([a, b]) => others.map(([c, d]) => Math.max(Math.min(b, d) - Math.max(a, c) + 1, 0)))
    .reduce((sum, n) => sum + n, 0);
  return count > 0 && shared * 2 >= count;
}

const spans = (range: string): [number, number][] =>
  range
    .split(',')
    .filter(Boolean)
    .map((part) => {
      const [low, high = low] = part.trim().slice(2).split('-');
      return [parseInt(known(low), 16), parseInt(known(high), 16)];
    });
