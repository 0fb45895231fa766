/* What plays Lottie files and films, and what sets parameters and traits, where the page has it. */
import type { LottiePlayer } from 'lottie-web';
import type { openFilm } from '../features/player/decoded';
import { openFilmsBy } from '../features/player/films';
import type { played, read } from '../runtime/settings';
import { loadLottieBy } from '../features/player/lotties';

interface Brought {
  lottie?: LottiePlayer;
  openFilm?: typeof openFilm;
  settable?: Settable;
}
const { lottie, openFilm: opens, settable } = globalThis as Brought;
if (opens) openFilmsBy(() => Promise.resolve(opens));
if (lottie) loadLottieBy(() => Promise.resolve(lottie));

interface Settable {
  played: typeof played;
  read: typeof read;
}

/** Of a piece without parameters and traits nothing can be set. */
const nothing: Settable = {
  played: (piece) => piece,
  read: (_, id) => {
    throw new RangeError(`There is no “${id}”: nothing of this piece can be set.`);
  },
};

export const setting: Settable = settable ?? nothing;
