/* The piece on the bench: what the server said, what is chosen, what is told; and the way of every edit. */
import { create } from 'zustand';
import type { ChangeAnswer, Fault, Piece, WholeAnswer } from '../../api/contract';
import { api } from '../../api/client';
import { Clock } from '../player';
import { chosenAfter, chosenIn, NOTHING_CHOSEN, type Chosen } from './chosen';
import { changedIn, intentOf, type Edit } from './edits';
import { EditQueue } from './queue';
import { isOpen, NOTHING_SERVED, servedAfter, servedWhole, type Served } from './served';
import { remember, remembered } from './remembered';
import { speak } from './speech';
import { faultOf, NOTHING_TOLD, type Conflict, type Told } from './told';

/** All three in one, so that no part of the page ever sees one that does not fit the others. */
export interface Bench extends Served, Chosen, Told {}

const FRESH: Bench = { ...NOTHING_SERVED, ...NOTHING_CHOSEN, ...NOTHING_TOLD };

const CHOSEN = ['state', 'layer', 'others', 'transition', 'alsoWays'] as const;
const pick = (bench: Bench): Partial<Chosen> => Object.fromEntries(CHOSEN.map((name) => [name, bench[name]]));

/** `id name` apart: pairs as texts, so that lists of them can be compared one by one. */
export function namedOf(text: string): { id: string; name: string } {
  const at = text.indexOf(' ');
  return { id: text.slice(0, at), name: text.slice(at + 1) };
}

export const useBench = create<Bench>(() => FRESH);
export const clock = new Clock();
const { setState: set, getState: get } = useBench;
useBench.subscribe((now, before) => {
  if (isOpen(now) && CHOSEN.some((name) => now[name] !== before[name])) remember('chosen', now.id, pick(now));
});

/** So that the next view of a piece takes it whole from the server. Edits that wait are kept. */
export const forgetPiece = (): void => set(FRESH);

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
  const isOther = answer.revision > now.revision || answer.holds !== now.holds;
  if (now.id === id && queue.isEmpty && isOther) takeWhole(answer);
}

function takeWhole(answer: WholeAnswer): void {
  const before = get();
  const earlier = isOpen(before) ? before.document : null;
  if (before.id !== answer.document.id) clock.setPart(null);
  const kept = earlier ? null : remembered<Partial<Chosen>>('chosen', answer.id);
  set({ ...servedWhole(answer), fault: null, ...chosenIn(answer.document, { ...before, ...kept }, earlier) });
  clock.setRun(answer.run);
}

/** The loop and the pose come first, then what is said about them. */
async function takeChange(answer: ChangeAnswer): Promise<void> {
  const before = get();
  // The piece may have been left while the answer was on its way.
  if (answer.id !== before.id || !isOpen(before)) return;
  const { plays, said } = servedAfter(before, answer);
  set(plays);
  if (plays.run !== before.run) clock.setRun(plays.run);
  await nextPaint();
  const now = get();
  if (answer.id !== now.id) return;
  set({ ...said, fault: null, ...chosenIn(said.document, now, before.document) });
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

/** Takes the last edit back, or makes it again, and goes to where that is seen. */
export async function goBack(direction: 'undo' | 'redo'): Promise<void> {
  const { [direction]: label, document } = get();
  if (!label && queue.isEmpty) return;
  try {
    await queue.step(direction);
    set(chosenAfter(get(), changedIn(document, get().document)));
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
