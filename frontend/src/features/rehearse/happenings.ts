/* What happened in a rehearsal, in the order of time. */
import { create, type StoreApi, type UseBoundStore } from 'zustand';
import type { Heard } from '../../runtime/data';
import type { Session, Told } from '../../runtime/session';
import type { Taken } from '../../runtime/stage';

export interface Happening {
  number: number;
  at_ms: number;
  /** What somebody did; nothing where the piece went on by itself. */
  heard: Heard | null;
  /** What began then. */
  taken: Taken | null;
}

interface Happened {
  list: readonly Happening[];
  state: string;
  playing: boolean;
  rate: number;
}

/** So many are listed: the oldest go first. */
const MOST_LISTED = 400;

export type Rehearsed = UseBoundStore<StoreApi<Happened>>;

/** A store that follows a session, and what the session has to tell it. */
export function follow(start: string): {
  store: Rehearsed;
  told: Told;
  listen: (shown: (t: number) => void) => () => void;
} {
  const store = create<Happened>(() => ({ list: [], state: start, playing: true, rate: 1 }));
  const listeners = new Set<(t: number) => void>();
  let count = 0;
  const add = (at_ms: number, heard: Heard | null, taken: Taken | null) =>
    store.setState(({ list }) => ({
      list: [...list, { number: count++, at_ms, heard, taken }].slice(-MOST_LISTED),
    }));
  const switched = ({ playing, rate }: Session) => store.setState({ playing, rate });
  const told: Told = {
    begun: () => store.setState({ list: [], state: start }),
    heard: (heard) => add(heard.at_ms, heard, null),
    taken: (taken) => {
      const last = store.getState().list.at(-1);
      // What an event set off is told with the event.
      if (last?.heard?.transition && !last.taken && last.heard.transition === taken.transition.id) {
        store.setState(({ list }) => ({ list: [...list.slice(0, -1), { ...last, taken }] }));
      } else {
        add(taken.at_ms, null, taken);
      }
      store.setState({ state: taken.transition.to });
    },
    shown: (t) => listeners.forEach((listener) => listener(t)),
    switched,
  };
  const listen = (shown: (t: number) => void) => {
    listeners.add(shown);
    return () => listeners.delete(shown);
  };
  return { store, told, listen };
}
