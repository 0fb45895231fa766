/* What plays Lottie files and films, where the page has it. */
import type { LottiePlayer } from 'lottie-web';
import type { openFilm } from '../features/player/decoded';
import { openFilmsBy } from '../features/player/films';
import { loadLottieBy } from '../features/player/lotties';

const { lottie, openFilm: opens } = globalThis as { lottie?: LottiePlayer; openFilm?: typeof openFilm };
if (opens) openFilmsBy(() => Promise.resolve(opens));
if (lottie) loadLottieBy(() => Promise.resolve(lottie));
