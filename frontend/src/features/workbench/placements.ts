/* Pieces that stand in the piece on the bench, and the ways between them. */
import { navigate } from 'wouter/use-browser-location';
import { api } from '../../api/client';
import type { Original, OriginalParameter, Piece, Shelf } from '../../api/contract';
import { attempt, sayFault, useBench, type Bench } from './bench';
import { group } from './actions';
import { choose } from './choosing';
import { chosenLayers } from './chosen';
import { addPlacement, toldBy, type Own } from './edits';
import { labelOf, placed, placeOf } from './tree';
import { chainTo } from '../../shared/geometry/matrix';

/** The original of a copy, if it is one and its original is there. */
export function originalOf({ document, originals }: Pick<Bench, 'document' | 'originals'>, layer: string) {
  const found = placeOf(document, layer)?.layer;
  return found?.kind === 'placement' ? originals[found.piece] : undefined;
}

/** The state in which a copy stands on the pose stage; that in which its original starts where it has gone. */
export function standingIn(original: Original, state: unknown): string {
  return original.states.some(({ id }) => id === state) ? String(state) : original.start;
}

/** A state of the original by its name, as it is shown. */
export const stateCalled = (original: Original, id: unknown): string =>
  original.states.find((state) => state.id === standingIn(original, id))?.name ?? '';

/** The state that is meant by a typed name. */
export function stateOf(original: Original, text: string): { value: string } | { fault: string } {
  const called = (state: { id: string; name: string }) =>
    state.id === text || state.name.toLowerCase() === text.toLowerCase();
  const found = original.states.find(called);
  if (found) return { value: found.id };
  return { fault: `${original.name} has no state “${text}”. It has ${original.states.map((s) => s.name).join(', ')}.` };
}

export function standingName(bench: Bench, layer: string): string {
  const original = originalOf(bench, layer);
  if (!original) return '';
  return stateCalled(original, bench.poses[bench.state]?.[layer]?.state);
}

/** A layer by its name; what lies in a copy by the name of both. */
export const labelIn = ({ document, layers }: Pick<Bench, 'document' | 'layers'>, id: string): string =>
  id.includes('/') ? (chainTo(layers ?? [], id).at(-1)?.name ?? '') : labelOf(document, id);

/** A parameter as a copy has it: whose value it is, and that value. */
export interface Had {
  parameter: OriginalParameter;
  value: string | number | null;
  from: 'state' | 'base' | 'original';
}

export function hadBy(
  { document, state }: Pick<Bench, 'document' | 'state'>,
  layer: string,
  original: Original,
): Had[] {
  const own: [Had['from'], Own][] = [
    ['state', toldBy(document, state, layer, 'state')],
    ['base', toldBy(document, state, layer, 'base')],
  ];
  return original.parameters.map((parameter): Had => {
    const said = own.find(([, values]) => values[parameter.id] !== undefined);
    return {
      parameter,
      value: said?.[1][parameter.id] ?? parameter.value,
      from: said?.[0] ?? 'original',
    };
  });
}

/** Into another piece; the way back is there, among those that use it. */
export const goToPiece = (id: string): void => navigate(`/pieces/${id}`);

export function goToOriginal(piece: Piece, copy: string): void {
  const { layer } = placed(piece, copy);
  if (layer.kind === 'placement') goToPiece(layer.piece);
}

/** The ids of all pieces that hold this one, at any depth, and its own: they cannot stand in it. */
export function holdersOf({ uses }: Pick<Shelf, 'uses'>, id: string): Set<string> {
  const found = new Set([id]);
  // A set is walked on while it grows.
  for (const held of found) for (const use of uses) if (use.of === held) found.add(use.id);
  return found;
}

/** The copy goes on as it is, by layers of this piece, and follows its original no more. */
export async function turnPlain(copy: string): Promise<void> {
  try {
    if (await attempt(await api.plainLayers(useBench.getState().id, copy))) choose({ layer: copy });
  } catch (error) {
    sayFault(error);
  }
}

/** A piece of its own, made of the chosen layers, stands in their stead: nothing that plays changes. */
export async function makePiece(): Promise<void> {
  const { document, layer } = useBench.getState();
  const [chosen, ...others] = chosenLayers(useBench.getState());
  const isGroup = chosen !== undefined && !others.length && placed(document, chosen).layer.kind === 'group';
  if (!isGroup) {
    await group();
    // Said why, where they cannot be grouped.
    if (useBench.getState().layer === layer) return;
  }
  const { id, layer: whole } = useBench.getState();
  if (!whole) return;
  try {
    if (await attempt(await api.pieceOfGroup(id, whole))) choose({ layer: whole });
  } catch (error) {
    sayFault(error);
  }
}

/** Puts a copy of another piece into the middle. */
export async function place(original: string): Promise<void> {
  try {
    const { document } = await api.piece(original);
    const edit = addPlacement(useBench.getState().document, original, document);
    if (await attempt(edit)) choose({ layer: edit.id, transition: null, fresh: edit.id });
  } catch (error) {
    sayFault(error);
  }
}
