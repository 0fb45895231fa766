/* The columns of the score: states, and behind each the transitions that leave it. Pure. */
import type { Piece, Run, Seam, Transition } from '../../../api/answers';

export const HEAD_W = 116;
export const STATE_W = 74;
export const WAY_W = 64;

export type Column =
  | { kind: 'state'; id: string; index: number; x: number; width: number }
  | { kind: 'way'; id: string; transition: Transition; x: number; width: number }
  | { kind: 'gap'; id: string; from: string; to: string; x: number; width: number };

export function columnsOf(piece: Piece): Column[] {
  const columns: Column[] = [];
  let x = 0;
  const put = (column: Omit<Column, 'x'>) => {
    columns.push({ ...column, x } as Column);
    x += column.width;
  };
  piece.states.forEach((state, index) => {
    put({ kind: 'state', id: state.id, index, width: STATE_W } as Column);
    const leaving = (piece.transitions ?? []).filter((t) => t.from === state.id);
    for (const transition of leaving) put({ kind: 'way', id: transition.id, transition, width: WAY_W } as Column);
    const next = piece.states[index + 1] ?? piece.states[0]!;
    if (!leaving.length && next.id !== state.id) put({ kind: 'gap', id: `after-${state.id}`, from: state.id, to: next.id, width: 34 } as Column);
  });
  return columns;
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

export function seamText(seam: Seam): string {
  const looks = seam.colour >= 0.005 ? `, ${seam.colour.toFixed(2)} in colour` : '';
  return `loops · seam ${seam.distance_px.toFixed(1)} px${looks}`;
}
