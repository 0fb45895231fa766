/* A run that ends, or jumps, made to go round. */
import type { Operation, Piece, Run, Transition } from '../../../api/contract';
import { stateIndex, type Edit } from './edit';
import { addTransition } from './transitions';
import { stateNamed } from '../tree';
import { known, lastOf } from '../../../shared/known';

/** By a motion back, by a look that comes through the other, or by beginning as it ends. */
export type Closing = 'tween' | 'cross-fade' | 'same';

export const CLOSINGS: Record<Closing, string> = {
  tween: 'Close the loop by a tween',
  'cross-fade': 'Close the loop by a cross-fade',
  same: 'Begin as it ends',
};

const BACK_MS = 400;
const SOFT = 'ease-in-out';

/** The way back at the end of the run: there already or new. Nothing for a run without motion. */
export function closeLoop(piece: Piece, run: Run, how: Closing): Edit {
  const last = run.loop_ms === null ? run.final_state : lastOf(run.segments).from;
  const back = (piece.transitions ?? []).find((t) => run.loop_ms !== null && t.id === run.transitions.at(-1));
  const start = back?.to ?? piece.start;
  const label = CLOSINGS[how];
  if (how === 'same')
    return { label, patch: [...beginAs(piece, start, last), ...(back ? [] : wayBack(piece, last, start, 'cut'))] };
  if (!back) return { label, patch: wayBack(piece, last, start, how) };
  const path = `/transitions/${known(piece.transitions).indexOf(back)}`;
  // What was a cut had no curve that anybody saw.
  const own = back.style === 'cut' ? { ...back.timing, easing: SOFT } : back.timing;
  const slow: Operation[] =
    back.timing.kind !== 'spring'
      ? [
          {
            op: 'add',
            path: `${path}/timing`,
            value: { ...own, duration_ms: Math.max(back.timing.duration_ms, BACK_MS) },
          },
        ]
      : [];
  return { label, patch: [{ op: 'add', path: `${path}/style`, value: how }, ...slow] };
}

/** The first state says what the last one says. */
const beginAs = (piece: Piece, start: string, last: string): Operation[] => [
  { op: 'add', path: `/states/${stateIndex(piece, start)}/changes`, value: stateNamed(piece, last).changes ?? {} },
];

/** What leads on where the piece appears leads on each time it comes back there, too. */
const leadOn = (piece: Piece, start: string): Operation[] =>
  (piece.transitions ?? []).flatMap((t, i): Operation[] =>
    t.from === start && t.cue === 'appear' ? [{ op: 'add', path: `/transitions/${i}/cue`, value: 'hold' }] : [],
  );

const wayBack = (piece: Piece, from: string, to: string, style: NonNullable<Transition['style']>): Operation[] => [
  ...leadOn(piece, to),
  ...addTransition(piece, from, to, { style, timing: { kind: 'curve', duration_ms: BACK_MS, easing: SOFT } }).patch,
];
