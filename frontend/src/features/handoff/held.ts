/* A file at the moment of the stage. */
import type { HandoffReport } from '../../api/contract';
import { clock, playedRun } from '../workbench';

/** Shows a moment of the file, ms. */
export type Show = (t: number) => void;

/** Shows it whenever the stage shows another moment; gives back what ends that. */
export type Follow = (show: Show) => () => void;

export const followStage =
  (part: HandoffReport['part']): Follow =>
  (show) =>
    clock.listen((moment) => show(inFile(stageTime(moment), part)));

/** What goes round beside the loop goes on while the loop begins anew. */
function stageTime(moment: number): number {
  const loops = playedRun().loop_ms !== null && clock.look === 'loop' && !clock.plays;
  return loops ? clock.t : moment;
}

/** Where in a file is what the run shows at `t` ms; what comes before is its first moment. */
export function inFile(t: number, part: HandoffReport['part']): number {
  if (!part) return t;
  const length = part.end_ms - part.begin_ms;
  const within = Math.max(t - part.begin_ms, 0);
  return part.again && length > 0 ? within % length : Math.min(within, length);
}
