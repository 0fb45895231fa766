/* The piece on the bench: the document, what the server computed of it, and what is chosen. */
import { create } from 'zustand';
import type {
  ChangeAnswer,
  Fault,
  Head,
  Piece,
  Pose,
  Run,
  Seam,
  TransitionReading,
  WholeAnswer,
} from '../../api/contract';
import { api, ApiFault } from '../../api/client';
import { chainTo } from '../../shared/geometry/matrix';
import { Clock, updateTape, type Tape } from '../player';
import { CannotBe, intentOf, patched, type Edit, type Intent, type Scope } from './edits';
import { EditQueue } from './queue';
import { speak } from './speech';
import { known } from '../../shared/known';

interface Conflict {
  /** What was meant, to be made after theirs; nothing where it was an undo. */
  mine: { label: string; intent: Intent };
  theirs: string[];
}

export interface Bench extends Head {
  document: Piece;
  poses: Record<string, Pose>;
  run: Run;
  seam: Seam | null;
  readings: Record<string, TransitionReading>;
  tape: Tape;
  conflict: Conflict | null;
  fault: Fault | null;
  state: string;
  layer: string | null;
  /** Chosen besides `layer`. */
  others: readonly string[];
  transition: string | null;
  /** Chosen besides `transition`. */
  alsoWays: readonly string[];
  /** The layer whose lane the inspector shows; null for the transition itself. */
  lane: string | null;
  scope: Scope;
  /** Somebody has said what edits reach. */
  scopeIsChosen: boolean;
  /** A layer that was just added: until something else is chosen it is being placed, in all states. */
  fresh: string | null;
  askedRows: string[];
  /** What should be known of the last edit. */
  told: string | null;
}

export const ALONE: readonly string[] = [];
const EMPTY_RUN: Run = {
  lead_in_ms: 0,
  loop_ms: null,
  total_ms: 0,
  final_state: '',
  segments: [],
  transitions: [],
  legs: [],
  plays: null,
  common_loop_ms: null,
  undercurrents: [],
};
const NO_PIECE: Piece = { format: 1, id: '', name: '', width: 1, height: 1, states: [{ id: '', name: '' }], start: '' };
const FRESH: Bench = {
  id: '',
  revision: 0,
  undo: null,
  redo: null,
  document: NO_PIECE,
  poses: {},
  run: EMPTY_RUN,
  seam: null,
  readings: {},
  tape: new Map(),
  conflict: null,
  fault: null,
  state: '',
  layer: null,
  others: ALONE,
  transition: null,
  alsoWays: ALONE,
  lane: null,
  scope: 'state',
  scopeIsChosen: false,
  fresh: null,
  askedRows: [],
  told: null,
};

/** `id name` apart: pairs as texts, so that lists of them can be compared one by one. */
export function namedOf(text: string): { id: string; name: string } {
  const at = text.indexOf(' ');
  return { id: text.slice(0, at), name: text.slice(at + 1) };
}

export const useBench = create<Bench>(() => FRESH);
export const clock = new Clock();
const { setState: set, getState: get } = useBench;

/** So that the next view of a piece takes it whole from the server. Edits that wait are kept. */
export const forgetPiece = (): void => set(FRESH);

/** Whether the server has said anything of a piece yet. */
export const isOpen = ({ revision }: Pick<Bench, 'revision'>): boolean => revision > 0;

export async function load(id: string): Promise<void> {
  if (get().id !== id) set({ ...FRESH, id });
  try {
    takeWhole(await api.piece(id));
    queue.resume(id);
  } catch (error) {
    set({ fault: faultOf(error) });
  }
}

/** Takes over what another window has made, as long as nothing is chosen, typed or on its way here that it could disturb. */
export async function follow(id: string): Promise<void> {
  const answer = await api.piece(id);
  const now = get();
  if (now.id === id && queue.isEmpty && answer.revision > now.revision) takeWhole(answer);
}

function takeWhole(answer: WholeAnswer): void {
  const { document, transitions, ...rest } = answer;
  set({
    ...rest,
    document,
    readings: transitions,
    tape: updateTape(new Map(), transitions, Object.keys(transitions)),
    fault: null,
    ...chosenIn(document, get()),
  });
  clock.setRun(answer.run);
}

/** What was chosen, as far as it is still there. */
function chosenIn(document: Piece, before: Bench): Partial<Bench> {
  const states = document.states.map((s) => s.id);
  const transitions = document.transitions ?? [];
  const isThere = (id: string) => chainTo(document.layers ?? [], id).length > 0;
  const left = [...before.others, ...(before.layer ? [before.layer] : [])].filter(isThere);
  return {
    state: states.includes(before.state) ? before.state : document.start,
    transition: transitions.some((t) => t.id === before.transition) ? before.transition : null,
    alsoWays: before.alsoWays.every((id) => transitions.some((t) => t.id === id)) ? before.alsoWays : ALONE,
    layer: left.at(-1) ?? null,
    others: left.length - 1 === before.others.length ? before.others : left.slice(0, -1),
    scope: scopeIn(document, before),
  };
}

/** What edits reach is the designer's word. Until it is said a piece opens with its base where it has one state, since
 * nothing could be told apart from it, and goes over to the states with the second. */
function scopeIn(document: Piece, before: Bench): Scope {
  if (before.scopeIsChosen) return before.scope;
  if (!isOpen(before)) return document.states.length === 1 ? 'base' : 'state';
  return before.document.states.length === 1 && document.states.length > 1 ? 'state' : before.scope;
}

/** An answer holds only what changed; the rest stays the same object, so that only what changed is drawn again. */
async function takeChange(answer: ChangeAnswer): Promise<void> {
  const before = get();
  // The piece may have been left while the answer was on its way.
  if (answer.id !== before.id || !isOpen(before)) return;
  const document = patched(before.document, answer.patch);
  const ways = (document.transitions ?? []).map((t) => t.id);
  const merged = { ...before.poses };
  for (const [id, looks] of Object.entries(answer.poses)) merged[id] = { ...merged[id], ...looks };
  const run = answer.run ?? before.run;
  // The loop and the pose come first, then what is said about them; states that are gone stay until then.
  set({ poses: merged, run, tape: updateTape(before.tape, answer.transitions, [...new Set([...ways, ...run.legs])]) });
  if (run !== before.run) clock.setRun(run);
  await nextPaint();
  if (answer.id !== get().id) return;
  const { id, revision, undo, redo, seam } = answer;
  const poses = Object.fromEntries(document.states.map((state) => [state.id, known(merged[state.id])]));
  const readings = Object.fromEntries(ways.map((way) => [way, answer.transitions[way] ?? known(before.readings[way])]));
  set({ ...{ id, revision, undo, redo, seam, document, poses, readings, fault: null }, ...chosenIn(document, get()) });
}

/** Just after the next frame has been drawn; in a window out of sight, where none is, before long. */
function nextPaint(): Promise<void> {
  return new Promise((resolve) => {
    const timer = setTimeout(resolve, 50);
    requestAnimationFrame(() => {
      clearTimeout(timer);
      setTimeout(resolve);
    });
  });
}

export const queue = new EditQueue({
  now: get,
  take: takeChange,
  reload: (id) => (get().id === id ? load(id) : Promise.resolve()),
});

/** Makes an edit; rejects with the fault, to be shown beside what was typed. A stale one is kept for the asking.
 *
 * It is kept as what it means, so that it can wait for those before it, for the server, or for a decision. */
export async function make(edit: Edit, told: Piece = get().document): Promise<void> {
  if (!edit.patch.length) return;
  const intent = intentOf(told, edit.patch);
  try {
    await queue.add(edit.label, intent);
    speak(edit.spoken ?? edit.label);
  } catch (error) {
    keepIfStale({ label: edit.label, intent }, faultOf(error));
    throw error;
  }
}

/** The same for an edit that builds on those that are still on their way, such as one more step of the same. */
export function makeNext(build: (piece: Piece) => Edit): Promise<void> {
  const piece = queue.drafted();
  return make(build(piece), piece);
}

/** For edits without a field of their own: their fault is shown across the top. */
export async function attempt(edit: Edit, told?: Piece): Promise<boolean> {
  try {
    await make(edit, told);
    return true;
  } catch (error) {
    sayUnlessStale(error);
    return false;
  }
}

/** The same for one that builds on those that are still on their way. */
export async function attemptNext(build: (piece: Piece) => Edit): Promise<boolean> {
  const piece = queue.drafted();
  return attempt(build(piece), piece);
}

/** The same for an edit that is on its way already. */
export const attemptCommit = (done: Promise<void>): Promise<void> => done.catch(sayUnlessStale);

export async function goBack(direction: 'undo' | 'redo'): Promise<void> {
  const label = get()[direction];
  if (!label && queue.isEmpty) return;
  try {
    await queue.step(direction);
    speak(`${direction === 'undo' ? 'Undone' : 'Redone'}: ${label}`);
  } catch (error) {
    keepIfStale({ label: direction === 'undo' ? 'Undo' : 'Redo', intent: [] }, faultOf(error));
    sayUnlessStale(error);
  }
}

function keepIfStale(mine: Conflict['mine'], fault: Fault): void {
  if (fault.kind === 'Stale') set({ conflict: { mine, theirs: (fault.changes ?? []).map((c) => c.label) } });
}

function sayUnlessStale(error: unknown): void {
  const fault = faultOf(error);
  if (fault.kind !== 'Stale') set({ fault });
}

/** Takes over the newest revision, then makes the edit that was kept, if it is wanted. */
export async function settleConflict(again: boolean): Promise<void> {
  const { conflict, id } = get();
  set({ conflict: null });
  await load(id);
  if (!again || !conflict) return;
  try {
    await queue.add(conflict.mine.label, conflict.mine.intent);
    speak(conflict.mine.label);
  } catch (error) {
    keepIfStale(conflict.mine, faultOf(error));
    sayUnlessStale(error);
  }
}

/** Tells what an edit did besides what was asked for. */
export const tell = (text: string): void => set({ told: text });

/** Shows a fault that has no field of its own across the top. */
export const sayFault = (error: unknown): void => set({ fault: faultOf(error) });

function faultOf(error: unknown): Fault {
  if (error instanceof ApiFault) return error.fault;
  if (error instanceof CannotBe) return { kind: 'Page', message: error.message, place: '', value: null, remedy: '' };
  return { kind: 'Page', message: String(error), place: '', value: null, remedy: 'Load the page again.' };
}
