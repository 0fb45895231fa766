/* Edits of what the stage shows: places and sizes as they are seen, kept as the document writes them. */
import type { Piece, Pose } from '../../api/answers';
import { round } from '../../shared/text/sums';
import { attempt, useBench } from './bench';
import { placed } from './tree';
import { baseOf, setLooks, type Edit, type Scope, type Values } from './edits';

const PLACES = ['x', 'y', 'width', 'height'];

/** A row, a column or a resize rule shows a layer elsewhere than it is written: what is written moves by as much. */
export function written(piece: Piece, state: string, pose: Pose, looks: Record<string, Values>, scope: Scope): Record<string, Values> {
  const own = (piece.states.find((s) => s.id === state)!.changes ?? {}) as Record<string, Values>;
  const writtenOf = (layer: string, name: string) => Number((scope === 'state' ? own[layer]?.[name] : undefined) ?? baseOf(piece, layer, name));
  const valuesOf = (layer: string, values: Values) =>
    Object.fromEntries(Object.entries(values).map(([name, value]) => [name, PLACES.includes(name) ? round(writtenOf(layer, name) + Number(value) - Number(pose[layer]![name])) : value]));
  return Object.fromEntries(Object.entries(looks).map(([layer, values]) => [layer, valuesOf(layer, values)]));
}

/** Layers as they are to be seen in the state that is being posed. */
export function looksEdit(looks: Record<string, Values>): Edit {
  const { document: piece, state, scope, poses } = useBench.getState();
  return setLooks(piece!, state, written(piece!, state, poses[state]!, looks, scope), scope);
}

export async function showAs(looks: Record<string, Values>, label?: string): Promise<boolean> {
  const edit = looksEdit(looks);
  return attempt({ ...edit, ...(label && { label }), spoken: spokenOf(looks) });
}

/** “Knob at x 24, y 12” and the like. */
function spokenOf(looks: Record<string, Values>): string {
  const { document: piece } = useBench.getState();
  const names = Object.entries(looks).map(([id, values]) => {
    const said = Object.entries(values).filter(([, value]) => typeof value !== 'object');
    return `${nameIn(piece!, id)}: ${said.map(([name, value]) => `${name.replace('_', ' ')} ${String(value)}`).join(', ')}`;
  });
  return names.join('; ');
}

const nameIn = (piece: Piece, id: string) => placed(piece, id)?.layer.name ?? id;
