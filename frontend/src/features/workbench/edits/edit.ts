/* What every edit is: a name and a JSON Patch. Pure: a document in, an edit out. */
import type { Operation, Piece, Transition } from '../../../api/contract';
import { patched } from './patched';
import { firstOf } from '../../../shared/known';

export interface Edit {
  label: string;
  patch: Operation[];
  /** For those who do not see it, where that says more than the label. */
  spoken?: string;
}

/** Whether an edit reaches one state, or the base that all states share, or the option that a trait shows. */
export type Scope = 'state' | 'base' | `option:${string}`;
export type Timing = Transition['timing'];

export const stateIndex = (piece: Piece, id: string) => piece.states.findIndex((state) => state.id === id);

/** The first of wanted, wanted-2, wanted-3 … that is free. */
export function freeId(taken: Iterable<string>, wanted: string): string {
  const used = new Set(taken);
  const plain =
    wanted
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 48)
      .replace(/-+$/, '') || 'x';
  for (let n = 1; ; n++) {
    const candidate = n === 1 ? plain : `${plain}-${n}`;
    if (!used.has(candidate)) return candidate;
  }
}

/** The name that is wanted; where it is taken with a number, or the next one. */
export function freeNameAmong(taken: ReadonlySet<string>, wanted: string): string {
  const [, stem, digits] = /^(.*?)(?: (\d+))?$/s.exec(wanted) as unknown as [string, string, string | undefined];
  let name = wanted;
  for (let n = Number(digits ?? 1) + 1; taken.has(name); n++) name = `${stem} ${n}`;
  return name;
}

/** Several edits as one: each is told the document as the one before it left it. */
export function inTurn(piece: Piece, label: string, steps: readonly ((piece: Piece) => Edit)[]): Edit {
  const patch: Operation[] = [];
  let now = piece;
  for (const step of steps) {
    const edit = step(now);
    patch.push(...edit.patch);
    now = patched(now, edit.patch);
  }
  return { label, patch };
}

/** “Buoy 1”, or “3 layers”. */
export const named = (names: readonly string[], many: string) =>
  names.length === 1 ? firstOf(names) : `${names.length} ${many}`;
