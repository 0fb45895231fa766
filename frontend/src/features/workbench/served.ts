/* What the server said of the piece: its document, and what was computed of it. Pure. */
import type {
  ChangeAnswer,
  CoveredFont,
  Head,
  Drawn,
  FontFacts,
  LackingLetters,
  Original,
  Piece,
  Pose,
  Run,
  Seam,
  TransitionReading,
  WholeAnswer,
} from '../../api/contract';
import { known } from '../../shared/known';
import { updateTape, type Tape } from '../player';
import { patched } from './edits';

export interface Served extends Head {
  document: Piece;
  poses: Record<string, Pose>;
  run: Run;
  seam: Seam | null;
  readings: Record<string, TransitionReading>;
  tape: Tape;
  /** What is drawn, where pieces stand in this one; and those pieces, by their ids. */
  layers: readonly Drawn[] | null;
  originals: Readonly<Record<string, Original>>;
  /** All families but the shipped ones; and letters that their families do not have. */
  fonts: Readonly<Record<string, FontFacts>>;
  lacking: readonly LackingLetters[];
  /** Families that pieces in this one bring too, with other files. */
  covered: readonly CoveredFont[];
}

type Plays = Pick<Served, 'poses' | 'run' | 'tape'>;

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
  common_from_ms: 0,
  voices: [],
  undercurrents: [],
};
const NO_PIECE: Piece = { format: 1, id: '', name: '', width: 1, height: 1, states: [{ id: '', name: '' }], start: '' };

export const NOTHING_SERVED: Served = {
  id: '',
  revision: 0,
  holds: '',
  undo: null,
  redo: null,
  document: NO_PIECE,
  poses: {},
  run: EMPTY_RUN,
  seam: null,
  readings: {},
  tape: new Map(),
  layers: null,
  originals: {},
  fonts: {},
  lacking: [],
  covered: [],
};

/** Whether the server has said anything of a piece yet. */
export const isOpen = ({ revision }: Pick<Served, 'revision'>): boolean => revision > 0;

/** The piece as an answer has it whole. */
export const servedWhole = ({ transitions, ...rest }: WholeAnswer): Served => ({
  layers: null,
  originals: {},
  fonts: {},
  lacking: [],
  covered: [],
  ...rest,
  readings: transitions,
  tape: updateTape(new Map(), transitions, Object.keys(transitions)),
});

/** The piece after an edit, in two parts: what plays comes first, then all that is said about it.
 *
 * An answer holds only what changed; the rest stays the same object, so that only what changed is drawn again. In
 * `plays` are still the states and ways that are gone, since they may be looked at. */
export function servedAfter(before: Served, answer: ChangeAnswer): { plays: Plays; said: Served } {
  const { id, revision, holds, undo, redo, seam } = answer;
  const run = answer.run ?? before.run;
  const document = patched(before.document, answer.patch);
  const ways = (document.transitions ?? []).map((t) => t.id);
  const poses = { ...before.poses };
  for (const [state, looks] of Object.entries(answer.poses)) poses[state] = { ...poses[state], ...looks };
  const tape = updateTape(before.tape, answer.transitions, [...new Set([...ways, ...run.legs])]);
  const kept = ways.map((way) => [way, answer.transitions[way] ?? known(before.readings[way])]);
  const said = {
    ...{ id, revision, holds, undo, redo, seam, document, run, tape },
    layers: answer.layers === undefined ? before.layers : answer.layers,
    originals: answer.originals ?? before.originals,
    fonts: answer.fonts ?? before.fonts,
    lacking: answer.lacking ?? before.lacking,
    covered: answer.covered ?? before.covered,
    poses: Object.fromEntries(document.states.map((state) => [state.id, known(poses[state.id])])),
    readings: Object.fromEntries(kept) as Served['readings'],
  };
  return { plays: { poses, run, tape }, said };
}
