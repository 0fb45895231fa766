/* What happened in a rehearsal, in the order of time. */
import { create, type StoreApi, type UseBoundStore } from 'zustand';
import type { Event, Heard } from '../../runtime/data';
import type { Session, Told } from '../../runtime/session';
import type { Taken } from '../../runtime/stage';
import { Noted } from './noted';

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
  /** What is being acted, where it is not somebody who acts. */
  planned: readonly Event[];
  /** The same on an axis of time; it changes with the list. */
  noted: Noted;
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
  const store = create<Happened>(() => ({
    list: [],
    state: start,
    playing: true,
    rate: 1,
    planned: [],
    noted: new Noted(),
  }));
  const listeners = new Set<(t: number) => void>();
  let count = 0;
  let untold: Taken | null = null;
  const add = (at_ms: number, heard: Heard | null, taken: Taken | null) =>
    store.setState(({ list }) => ({
      list: [...list, { number: count++, at_ms, heard, taken }].slice(-MOST_LISTED),
    }));
  const switched = ({ playing, rate, planned }: Session) => store.setState({ playing, rate, planned });
  const told: Told = {
    begun: () => {
      store.setState({ list: [], state: start, noted: new Noted() });
    },
    heard: (heard) => {
      store.getState().noted.heard(heard);
      const { list } = store.getState();
      const last = list.at(-1);
      // Where pieces live in each other, what it set off has been told already.
      const taken = heard.copy === null ? (last?.heard ? null : (last?.taken ?? null)) : untold;
      const isOfIt = heard.transition !== null && taken?.transition.id === heard.transition;
      if (isOfIt && heard.copy === null) store.setState({ list: list.slice(0, -1) });
      add(heard.at_ms, heard, isOfIt ? taken : null);
    },
    taken: (taken, stage) => {
      store.getState().noted.taken(stage, taken);
      // What lives by itself would fill the list: only what somebody set off is told, with the event, which comes next.
      if (stage.copy !== null) return void (untold = taken);
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
