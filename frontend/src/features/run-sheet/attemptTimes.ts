import { make, useBench } from '../workbench';
import { moveBars } from './barEdits';
import type { Bar } from './model';
import type { Places } from './places';

/** Puts bars where they are wanted; rejects with why that cannot be. */
export const attemptTimes = async (bars: readonly Bar[], places: Places): Promise<void> =>
  make(await moveBars(useBench.getState(), bars, places));
