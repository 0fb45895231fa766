/* A piece in an element of somebody else's page: drawn, playing, and answering to whoever acts. */
import type { Pose } from '../api/contract';
import { ScenePictures } from '../features/player/pictures';
import type { Picture } from '../features/player/scene';
import sceneStyle from '../features/player/scene.css?inline';
import type { Event, Tables } from '../runtime/data';
import { Session } from '../runtime/session';

export interface Handed {
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

export interface Change {
  from: string;
  to: string;
  copy: string | null;
}

export interface Mounted {
  methods: Methods;
  /** Ends it; nothing of it is left. */
  stop(): void;
}

/** Draws the piece in `into` and listens there; `changed` hears of every transition. */
export function mount(into: HTMLElement, { piece, pose, tables }: Handed, changed: (change: Change) => void): Mounted {
  const style = document.createElement('style');
  style.textContent = sceneStyle;
  const holder = document.createElement('div');
  holder.className = 'holder playing live';
  const pictures = new ScenePictures(holder, { ...piece, pose });
  into.replaceChildren(style, holder);
  const session = new Session(tables, pictures, {
    taken: ({ transition: { from, to } }, { copy }) => changed({ from, to, copy }),
  });
  const reduced = matchMedia('(prefers-reduced-motion: reduce)');
  const obey = () => session.setCalm(reduced.matches);
  reduced.addEventListener('change', obey);
  obey();
  session.listenOn(into);
  session.start();
  const stop = () => {
    session.stop();
    reduced.removeEventListener('change', obey);
    into.replaceChildren();
  };
  return { methods: methodsOf(session, tables), stop };
}

function methodsOf(session: Session, tables: Tables): Methods {
  return {
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
}
