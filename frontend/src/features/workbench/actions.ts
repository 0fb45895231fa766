/* What can be done to what is chosen, by button, menu or key. */
import type { Layer, Piece, Transition } from '../../api/contract';
import { api } from '../../api/client';
import { attempt, clock, queue, sayFault, tell, useBench, type Bench } from './bench';
import { choose, chooseLayers, chooseWays } from './choosing';
import { playWays, useCourse } from './course';
import { chosenLayers, reaches } from './chosen';
import * as edits from './edits';
import { nudge, showAs, unlocked } from './looks';
import { outermost } from './stage/caught';
import { stage } from './stageHands';
import { placed, propertiesOf, stateNamed, transitionNamed } from './tree';
import { leaveTrial, useTrial } from './trial';
import { look, useView } from './view';
import { chainTo } from '../../shared/geometry/matrix';
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
export async function tried<E extends edits.Edit>(edit: (piece: Piece) => E, then?: (edit: E) => void): Promise<void> {
  try {
    const piece = queue.drafted();
    const made = edit(piece);
    if (await attempt(made, piece)) then?.(made);
  } catch (error) {
    if (!(error instanceof edits.CannotBe)) throw error;
    sayFault(error);
  }
}

// Layers

export async function add(kind: edits.Drawn): Promise<void> {
  await tried(
    (piece) => edits.addLayer(piece, kind, undefined, undefined, entered()),
    ({ id }) => choose({ layer: id, transition: null, fresh: id }),
  );
}

/** The group in which the chosen layer lies: somebody has gone into it. */
const entered = () => {
  const { piece, ids } = now();
  const group = chainTo(piece.layers ?? [], ids.at(-1) ?? '').at(-2);
  return group?.kind === 'group' ? group.id : null;
};

/** What is chosen as text, to be pasted here or in another piece; null where nothing is. */
export function copyLayers(): string | null {
  const { piece, ids } = now();
  return ids.length ? edits.layersText(piece, outermost(piece.layers ?? [], ids)) : null;
}

/** Whether the text is of layers, which are pasted then. */
export function pasteLayers(text: string): boolean {
  const copied = edits.copiedIn(text);
  if (copied)
    void tried(
      (piece) => edits.pasteLayers(piece, copied, entered()),
      (made) => chooseLayers(made.ids),
    );
  return copied !== null;
}

/** What makes the look of a layer, apart from its place and its content. */
const OF_LOOK = ['Look', 'Line', 'Corners', 'Shadow and blur', 'Colour filters', 'Letters'];
let copied: { name: string; values: edits.Values } | null = null;

export function copyLook(): void {
  const { piece, ids, pose } = now();
  const id = ids.at(-1);
  if (!id) return;
  const { layer } = placed(piece, id);
  const names = propertiesOf(layer).filter(({ group }) => OF_LOOK.includes(group));
  copied = { name: layer.name, values: Object.fromEntries(names.map(({ name }) => [name, known(pose[id]?.[name])])) };
  tell(`The look of ${layer.name} is copied. Choose other layers, and paste it there (Shift C).`);
}

/** Onto the chosen layers, as far as they have the same properties. */
export async function pasteLook(): Promise<void> {
  const { piece, ids } = now();
  if (!copied) return tell('No look is copied yet: choose a layer, and copy its look (C).');
  const { name, values } = copied;
  const valuesFor = (id: string) => {
    const own = propertiesOf(placed(piece, id).layer).map((property) => property.name);
    return Object.fromEntries(Object.entries(values).filter(([property]) => own.includes(property)));
  };
  await showAs(Object.fromEntries(ids.map((id) => [id, valuesFor(id)])), `Look of ${name}`);
}

/** All layers of the group that was gone into, or of the piece. */
export function chooseAll(): void {
  const { piece } = now();
  const group = entered();
  const all = group ? (placed(piece, group).layer as { layers?: readonly Layer[] }).layers : piece.layers;
  chooseLayers((all ?? []).filter(({ locked }) => !locked).map(({ id }) => id));
}

/** Into another group, or another place among the layers. */
export async function regroup(ids: readonly string[], goal: edits.Goal): Promise<void> {
  const { poses } = useBench.getState();
  await tried(
    (piece) => edits.regroup(piece, poses, ids, goal),
    () => chooseLayers(ids),
  );
}

/** Out of its group, just in front of it; or into the group that lies next behind it, or before it. */
export async function changeGroup(way: 'in' | 'out'): Promise<void> {
  const { piece, ids } = now();
  const id = ids.at(-1);
  if (!id) return;
  const outer = chainTo(piece.layers ?? [], id).at(-2);
  const { siblings, index } = placed(piece, id);
  const beside = [siblings[index - 1], siblings[index + 1]].find((layer) => layer?.kind === 'group');
  if (way === 'out' && outer) await regroup(ids, { beside: outer.id, where: 'above' });
  else if (way === 'in' && beside) await regroup(ids, { into: beside.id });
  else tell(way === 'out' ? 'It lies in no group.' : 'No group lies just before it or behind it.');
}

export async function group(): Promise<void> {
  const { ids, pose } = now();
  if (ids.length)
    await tried(
      (piece) => edits.groupLayers(piece, ids, pose),
      ({ id }) => choose({ layer: id }),
    );
}

/** A rectangle or an ellipse as the path that it draws, with points of its own. */
export async function toPath(): Promise<void> {
  const { ids } = now();
  await tried(
    (piece) => edits.toPath(piece, lastOf(ids)),
    () => look({ points: lastOf(ids) }),
  );
}

/** The box of a group around what it holds. */
export async function fit(): Promise<void> {
  const { ids, pose } = now();
  await tried((piece) => edits.fitGroup(piece, lastOf(ids), pose));
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

/** By one among its siblings; without an end to the very front or back. */
export async function order(by: number): Promise<void> {
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

/** Three layers or more, on a circle or in a grid. */
export async function arrange(how: 'circle' | 'grid'): Promise<void> {
  const { piece, ids, pose } = now();
  if (ids.length < 3) return;
  const [looks, where] =
    how === 'circle'
      ? [edits.onCircle(piece, pose, ids), 'on a circle']
      : [edits.inGrid(piece, pose, ids), 'in a grid'];
  await showAs(looks, `${ids.length} layers ${where}`);
}

/** By so many px, whatever is chosen. */
export const nudgeChosen = (dx: number, dy: number) => nudge(outermost(now().piece.layers ?? [], now().ids), dx, dy);

// States

async function addedState(edit: edits.Edit & { id: string }): Promise<void> {
  if (await attempt(edit)) choose({ state: edit.id });
}

/** Whether a state after the chosen one would change where others lead. */
const wouldRewire = ({ document, state }: Pick<Bench, 'document' | 'state'>, backwards: boolean) =>
  (document.transitions ?? []).some((t) => (backwards ? t.to : t.from) === state);

/** After the chosen state, or before it while the piece is built backwards; where that changes what others lead to, it
 * is asked first. */
export function addState(): void {
  const { backwards } = useView.getState();
  if (wouldRewire(useBench.getState(), backwards)) stage.stateMenu();
  else void (backwards ? addStateBefore() : addStateAfter());
}
export const addStateAtEnd = () => addedState(edits.addState(now().piece, lastOf(now().piece.states).id));
export const addBranch = () => addedState(edits.addBranch(now().piece, now().state));
export const addStateAfter = () => addedState(edits.addState(now().piece, now().state));
export const addStateBefore = () => addedState(edits.addStateBefore(now().piece, now().state));
export async function duplicateState(): Promise<void> {
  const edit = edits.duplicateState(now().piece, now().state);
  await addedState(edit);
  if (now().state === edit.id) tell('Nothing leads to the copy yet: give it a transition.');
}
export const moveState = (by: number) => attempt(edits.moveState(now().piece, now().state, by));
export const startHere = () => attempt(edits.startAt(now().piece, now().state));
export const removeState = () => now().piece.states.length > 1 && attempt(edits.removeState(now().piece, now().state));

/** Adds a transition, and chooses it. */
async function addedWay(edit: edits.Edit & { id: string }): Promise<void> {
  if (await attempt(edit)) choose({ transition: edit.id, lane: null });
}
export const addTransition = (from: string, to: string) => addedWay(edits.addTransition(now().piece, from, to));
/** All that join states are chosen, so that their timing is set at once. */
export async function joinAll(): Promise<void> {
  if (await attempt(edits.joinAll(now().piece))) chooseWays((now().piece.transitions ?? []).map(({ id }) => id));
}
export const addWayBack = (way: Transition) => addedWay(edits.addWayBack(now().piece, way));

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
  else if (clock.plays || useCourse.getState().ways) playWays(null);
  else leaveChosen();
}

/** One level up: from an undercurrent to what was chosen, from the lane of a property to that of its layer, from a lane to its transition, from several to the last of them, from a layer to its group, and in the
 * end to the piece. */
function leaveChosen(): void {
  const { lane, laneProperty, alsoWays, transition, layer, others, undercurrent, document } = useBench.getState();
  if (undercurrent) choose({ undercurrent: null });
  else if (lane) choose({ lane: laneProperty ? lane : null });
  else if (alsoWays.length) chooseWays([known(transition)]);
  else if (transition) choose({ transition: null });
  else if (others.length) chooseLayers([known(layer)]);
  else if (layer) choose({ layer: chainTo(document.layers ?? [], layer).at(-2)?.id ?? null });
}
