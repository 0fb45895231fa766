/* The columns of the score: states, and behind each the transitions that leave it. Pure. */
import type { Piece, Run, Seam, Transition } from '../../../api/contract';

export const HEAD_W = 116;
export const STATE_W = 74;
export const WAY_W = 64;

export interface Column {
  kind: 'state' | 'way' | 'gap';
  /** Of the state or the transition; of a gap, the states that it lies between, joined by a greater-than sign. */
  id: string;
  x: number;
  width: number;
}

export type ColumnKey = `${Column['kind']} ${string}`;

const WIDTHS = { state: STATE_W, way: WAY_W, gap: 34 };

/** What stands in which order; texts, so that two orders are easily compared. */
export function columnKeys(piece: Piece): ColumnKey[] {
  return piece.states.flatMap((state, index): ColumnKey[] => {
    const leaving = (piece.transitions ?? []).filter((t) => t.from === state.id);
    const next = piece.states[index + 1] ?? piece.states[0];
    const gap: ColumnKey[] = !leaving.length && next.id !== state.id ? [`gap ${state.id}>${next.id}`] : [];
    return [`state ${state.id}`, ...leaving.map((t): ColumnKey => `way ${t.id}`), ...gap];
  });
}

export function columnsOf(keys: readonly ColumnKey[]): Column[] {
  let x = 0;
  return keys.map((key) => {
    const [kind, id] = key.split(' ') as [Column['kind'], string];
    const column = { kind, id, x, width: WIDTHS[kind] };
    x += column.width;
    return column;
  });
}

export interface Arch {
  id: string;
  from: number;
  to: number;
  closing: boolean;
  cue: Transition['cue'];
}

/** Who leads where, from middle to middle of the state columns. */
export function archesOf(piece: Piece, columns: readonly Column[], run: Run): Arch[] {
  const middle = new Map(columns.filter((c) => c.kind === 'state').map((c) => [c.id, c.x + c.width / 2]));
  const closing = run.loop_ms === null ? null : run.transitions.at(-1);
  return (piece.transitions ?? []).map((t) => ({
    id: t.id,
    from: middle.get(t.from) ?? 0,
    to: middle.get(t.to) ?? 0,
    closing: t.id === closing,
    cue: t.cue,
  }));
}

export const seamText = (seam: Seam): string => `loops · seam ${jumpText(seam)}`;

/** By what a loop jumps where it closes: a way, a colour, or something that only a picture shows. */
export function jumpText({ open, px, colour }: Seam): string {
  if (!open) return '0.0 px';
  const parts = [px >= 0.05 && `${px.toFixed(1)} px`, colour >= 0.005 && `${colour.toFixed(2)} in colour`].filter(
    Boolean,
  );
  return parts.join(' and ') || 'in how it looks';
}
