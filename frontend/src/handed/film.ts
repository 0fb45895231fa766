/* What reads the frames of films, for pages that hold one. */
import { openFilm } from '../features/player/decoded';

Object.assign(globalThis, { openFilm });
