/* What can be done to what is chosen, by button, menu or key. */
import type { Piece } from '../../api/contract';
import { api } from '../../api/client';
import { attempt, queue, sayFault, tell, useBench } from './bench';
import { choose, chooseLayers } from './choosing';
import { chosenLayers, reaches } from './chosen';
import * as edits from './edits';
import { showAs, unlocked } from './looks';
import { placed, stateNamed, transitionNamed } from './tree';
import { leaveTrial, useTrial } from './trial';
import { look, useView } from './view';
import { firstOf, known, lastOf } from '../../shared/known';

/** The piece, what is chosen of it, and the pose, at the moment of an action. */
function now() {
  const bench = useBench.getState();
  return {
    piece: bench.document,
    ids: chosenLayers(bench),
    pose: known(bench.poses[bench.state]),
    state: bench.state,
    scope: bench.scope,
  };
}

/** A refusal without a request is told like any other. What changes the tree is told of it as the edits before leave it. */
async function tried<E extends edits.Edit>(edit: (piece: Piece) => E, then: (edit: E) => void): Promise<void> {
  try {
    const piece = queue.drafted();
    const made = edit(piece);
    if (await attempt(made, piece)) then(made);
  } catch (error) {
    if (!(error instanceof edits.CannotBe)) throw error;
    sayFault(error);
  }
}

// Layers

export async function add(kind: edits.Drawn): Promise<void> {
  await tried(
    (piece) => edits.addLayer(piece, kind),
    ({ id }) => choose({ layer: id, transition: null, fresh: id }),
  );
}

export async function group(): Promise<void> {
  const { ids, pose } = now();
  if (ids.length)
    await tried(
      (piece) => edits.groupLayers(piece, ids, pose),
      ({ id }) => choose({ layer: id }),
    );
}

export async function ungroup(): Promise<void> {
  const { ids } = now();
  if (ids.length)
    await tried(
      (piece) => edits.ungroup(piece, lastOf(ids)),
      (made) => chooseLayers(made.ids),
    );
}

export async function duplicate(): Promise<void> {
  const { ids } = now();
  if (ids.length)
    await tried(
      (piece) => edits.duplicateLayers(piece, ids),
      (made) => chooseLayers(made.ids),
    );
}

/** Deletes what is chosen, and says what else that touched. */
export async function remove(): Promise<void> {
  const { piece, ids: all } = now();
  const ids = unlocked(piece, all);
  if (all.length > ids.length)
    tell(
      `${edits.namesOf(
        piece,
        all.filter((id) => !ids.includes(id)),
      )} is locked and stays. Unlock it to delete it.`,
    );
  if (!ids.length) return;
  const name = edits.namesOf(piece, ids);
  await tried(
    (drafted) => edits.removeLayers(drafted, ids),
    ({ touches }) => touches && tell(`${name} is deleted, with ${touches}. Undo brings all of it back.`),
  );
}

/** Whether all that is chosen can be seen in this state. */
const seen = () => now().ids.every((id) => known(now().pose[id]).visible);

export async function hide(): Promise<void> {
  const { piece, ids, state } = now();
  const scope = reaches(useBench.getState(), ids);
  const visible = !seen();
  const edit = edits.setValues(piece, state, ids, { visible }, scope);
  if (ids.length) await attempt({ ...edit, label: `${visible ? 'Show' : 'Hide'} ${edits.namesOf(piece, ids)}` });
}

export async function lock(): Promise<void> {
  const { piece, ids } = now();
  const locked = !ids.every((id) => placed(piece, id).layer.locked);
  if (ids.length)
    await attempt({
      ...edits.setFixed(piece, ids, 'locked', locked),
      label: `${locked ? 'Lock' : 'Unlock'} ${edits.namesOf(piece, ids)}`,
    });
}

export async function order(by: 1 | -1): Promise<void> {
  const { piece, ids } = now();
  const last = ids.at(-1);
  if (last) await attempt(edits.moveLayer(piece, last, by));
}

export async function align(line: edits.Line): Promise<void> {
  const { piece, ids, pose } = now();
  if (ids.length) await showAs(edits.aligned(piece, pose, ids, line), `Align ${edits.namesOf(piece, ids)}: ${line}`);
}

export async function distribute(axis: edits.Axis): Promise<void> {
  const { piece, ids, pose } = now();
  if (ids.length > 2)
    await showAs(edits.distributed(piece, pose, ids, axis), `Even gaps ${axis} between ${ids.length} layers`);
}

// States

async function addedState(edit: edits.Edit & { id: string }): Promise<void> {
  if (await attempt(edit)) choose({ state: edit.id });
}

/** After the chosen state, or before it while the piece is built backwards. */
export const addState = () => (useView.getState().backwards ? addStateBefore() : addStateAfter());
export const addStateAfter = () => addedState(edits.addState(now().piece, now().state));
export const addStateBefore = () => addedState(edits.addStateBefore(now().piece, now().state));
export const duplicateState = () => addedState(edits.duplicateState(now().piece, now().state));
export const moveState = (by: number) => attempt(edits.moveState(now().piece, now().state, by));
export const startHere = () => attempt(edits.startAt(now().piece, now().state));
export const removeState = () => now().piece.states.length > 1 && attempt(edits.removeState(now().piece, now().state));

/** In the middle of a transition, with every value halfway. */
export async function addStateBetween(way: string): Promise<void> {
  const { piece } = now();
  const { from, to } = transitionNamed(piece, way);
  try {
    const { steps } = await api.between(piece.id, { from, to, count: 1, easing: 'linear' });
    const start = (stateNamed(piece, from).changes ?? {}) as Record<string, edits.Values>;
    const changes = Object.fromEntries(
      [...new Set([...Object.keys(start), ...Object.keys(firstOf(steps))])].map((id) => [
        id,
        { ...start[id], ...firstOf(steps)[id] },
      ]),
    );
    await addedState(edits.addStateBetween(piece, way, changes));
  } catch (error) {
    sayFault(error);
  }
}

export function goToState(by: number): void {
  const { piece, state } = now();
  const index = piece.states.findIndex((s) => s.id === state);
  const next = known(piece.states[Math.min(Math.max(index + by, 0), piece.states.length - 1)]);
  choose({ state: next.id });
}

export const switchScope = () => choose({ scope: now().scope === 'state' ? 'base' : 'state' });

/** Out of a trial or a tool first, then out of what is chosen. */
export function leave(): void {
  const { tool, points, help } = useView.getState();
  if (help) look({ help: false });
  else if (useTrial.getState().trial) leaveTrial();
  else if (tool !== 'choose') look({ tool: 'choose', onColour: null });
  else if (points) look({ points: null });
  else choose({ layer: null });
}
