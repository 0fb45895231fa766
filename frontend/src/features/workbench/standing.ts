/* What a piece waits for that does nothing by itself, or nothing more. Pure. */
import type { Piece, Run } from '../../api/contract';
import { awaited, isByAPerson } from './cues';
import { labelOf } from './tree';

/** Why nothing plays, as a sentence without its end; null for a run that plays. What goes round on its own does not lead
 * to another state. */
export function standingStill(piece: Piece, run: Run): string | null {
  const goesRound = run.total_ms > 0;
  if (goesRound && run.segments.some(({ kind }) => kind === 'travel')) return null;
  const wanted = waitsFor(piece, run.final_state);
  if (wanted)
    return `${goesRound ? 'Goes round' : 'Stands still'}: ${nameOf(piece, run.final_state)} waits for ${wanted}`;
  if (goesRound) return null;
  return piece.states.length === 1
    ? 'Stands still: the piece has one state'
    : `Stands still: nothing leads on from ${nameOf(piece, run.final_state)}`;
}

/** What to do so that something plays. */
export function howToPlay(piece: Piece, run: Run): string {
  if (waitsFor(piece, run.final_state))
    return 'Rehearse it, play one of its transitions alone from the score, or let the state be left by a hold.';
  return piece.states.length === 1
    ? 'Add a second state in the workbench, and a transition to it that follows a hold.'
    : 'Add a transition in the score that leads on from there after a hold.';
}

/** What a person has to do for the state to be left; nothing where that would change nothing. */
function waitsFor(piece: Piece, state: string): string {
  const leaving = (piece.transitions ?? []).filter((t) => t.from === state && isByAPerson(t.cue ?? 'hold'));
  return [
    ...new Set(
      leaving.map(
        (t) => `${awaited(t.cue ?? 'hold', t.cue_key)}${t.cue_layer ? ` on ${labelOf(piece, t.cue_layer)}` : ''}`,
      ),
    ),
  ].join(', or ');
}

const nameOf = (piece: Piece, id: string) => piece.states.find((state) => state.id === id)?.name ?? id;
