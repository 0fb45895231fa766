/* A piece in an element of somebody else's page: drawn, playing, and answering to whoever acts. */
import type { Pose } from '../api/contract';
import { ScenePictures } from '../features/player/pictures';
import type { Picture } from '../features/player/scene';
import sceneStyle from '../features/player/scene.css?inline';
import type { Event, Tables } from '../runtime/data';
import { Session } from '../runtime/session';
import type { Settings, Values } from '../runtime/settings';
import { setting } from './players';

export interface Handed {
  piece: Picture;
  pose: Pose;
  tables: Tables;
  /** What can be set of it. */
  settings?: Settings;
}

/** What the element of a piece carries. */
export interface Methods {
  /** Goes to a state, by the transition that leads there from where it is, or at once where none does. */
  go(state: string): void;
  play(): void;
  pause(): void;
  /** Shows the moment so many ms after the start; what was done is done again, when its time comes. */
  seek(ms: number): void;
  /** Sets parameters and traits, by their ids; null gives one back what the piece has by itself. */
  set(values: Readonly<Record<string, unknown>>): void;
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

/** Draws the piece in `into`, with values of its own, and listens there; `changed` hears of every transition. */
export function mount(
  into: HTMLElement,
  handed: Handed,
  changed: (change: Change) => void,
  values: Values = {},
): Mounted {
  const { piece, settings = NOTHING } = handed;
  const { pose, tables } = setting.played(handed, settings, values);
  const style = document.createElement('style');
  style.textContent = sceneStyle;
  const holder = document.createElement('div');
  holder.className = 'holder playing live';
  const pictures = new ScenePictures(holder, { ...piece, pose: pose as Pose });
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
  let own = values;
  const set = (told: Readonly<Record<string, unknown>>) => {
    own = withTold(settings, own, told);
    const next = setting.played(handed, settings, own);
    pictures.repaint(next.pose as Pose);
    session.use(next.tables);
  };
  return { methods: methodsOf(session, tables, set), stop };
}

export const NOTHING: Settings = { choices: [], given: [], ways: [] };

function withTold(settings: Settings, own: Values, told: Readonly<Record<string, unknown>>): Values {
  const next: Record<string, string | number> = { ...own };
  for (const [id, value] of Object.entries(told)) {
    const fits = value === null || value === undefined ? undefined : setting.read(settings, id, value);
    if (fits === undefined) delete next[id];
    else next[id] = fits;
  }
  return next;
}

function methodsOf(session: Session, tables: Tables, set: Methods['set']): Methods {
  return {
    set,
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
