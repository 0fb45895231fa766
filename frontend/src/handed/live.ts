/* A piece in a page of somebody else: drawn, playing, and answering to whoever acts. */
import type { Pose } from '../api/contract';
import type { LottiePlayer } from 'lottie-web';
import { loadLottieBy } from '../features/player/lotties';
import { openFilmsBy } from '../features/player/films';
import type { openFilm } from '../features/player/decoded';
import { ScenePictures } from '../features/player/pictures';
import type { Picture } from '../features/player/scene';
import sceneStyle from '../features/player/scene.css?inline';
import type { Event, Tables } from '../runtime/data';
import { Session } from '../runtime/session';

const { lottie, openFilm: opens } = globalThis as { lottie?: LottiePlayer; openFilm?: typeof openFilm };
if (opens) openFilmsBy(() => Promise.resolve(opens));
if (lottie) loadLottieBy(() => Promise.resolve(lottie));

interface Handed {
  piece: Picture;
  pose: Pose;
  tables: Tables;
}

/** What the element of a piece carries. */
export interface Methods {
  /** Goes to a state, by the transition that leads there from where it is, or at once where none does. */
  go(state: string): void;
  play(): void;
  pause(): void;
  /** Shows the moment so many ms after the start; what was done is done again, when its time comes. */
  seek(ms: number): void;
  /** The state on stage. */
  readonly state: string;
  /** What was done so far: `keen-ripple rehearse` takes the same. */
  readonly events: readonly Event[];
}

function mount(element: HTMLElement, { piece, pose, tables }: Handed): void {
  const style = document.createElement('style');
  style.textContent = sceneStyle;
  const holder = document.createElement('div');
  holder.className = 'holder playing live';
  const pictures = new ScenePictures(holder, { ...piece, pose });
  element.replaceChildren(style, holder);
  const session = new Session(tables, pictures, {
    taken: ({ transition: { from, to } }, { copy }) =>
      element.dispatchEvent(new CustomEvent('statechange', { detail: { from, to, copy }, bubbles: true })),
  });
  const reduced = matchMedia('(prefers-reduced-motion: reduce)');
  const obey = () => session.setCalm(reduced.matches);
  reduced.addEventListener('change', obey);
  obey();
  const methods: Methods = {
    go: (state) => {
      if (!tables.states.some(({ id }) => id === state)) throw new RangeError(`There is no state “${state}”.`);
      session.go(state);
    },
    play: () => session.play(),
    pause: () => session.pause(),
    seek: (ms) => session.seek(Math.max(ms, 0)),
    get state() {
      return session.state;
    },
    get events() {
      return [...session.events];
    },
  };
  Object.defineProperties(element, Object.getOwnPropertyDescriptors(methods));
  session.listenOn(element);
  session.start();
}

// The data stand before this script, and the element before them: so several pieces can stand on one page.
const data = document.currentScript?.previousElementSibling;
const element = data?.previousElementSibling;
if (element instanceof HTMLElement && data?.textContent) mount(element, JSON.parse(data.textContent) as Handed);
