/* Small tables for tests: a box that taps send there and back. */
import type { Event, Tables, Transition } from './data';

const STRAIGHT = { u: [0, 1], p: [0, 1], stands: false };
export const ways = (...list: Partial<Transition>[]): Transition[] =>
  list.map((own, index) => ({
    id: `t${index}`,
    from: 'a',
    to: 'b',
    cue: 'tap',
    layer: null,
    key: null,
    arrival: null,
    share: 0.5,
    hold_ms: 0,
    rest_ms: 0,
    early_ms: 0,
    length_ms: 100,
    fade: null,
    medium: null,
    spans: [{ start_ms: 0, end_ms: 100, curve: 0 }],
    of: {},
    ...own,
  }));

/** A box that is at 10 in A, and at 50 in B. */
export const tables = (transitions: Transition[], rest: Partial<Tables> = {}): Tables => ({
  name: 'Probe',
  start: 'a',
  states: [
    { id: 'a', name: 'A' },
    { id: 'b', name: 'B' },
  ],
  double_tap_ms: 300,
  long_press_ms: 500,
  layers: [{ id: 'box', name: 'Box', around: null, through: false, margin: 0, seen: true }],
  motions: [
    {
      layer: 'box',
      property: 'x',
      form: null,
      tolerances: [0.05],
      low: null,
      high: null,
      jumps: false,
      calm: false,
      places: { a: [10], b: [50] },
      rest: { a: 10, b: 50 },
    },
  ],
  transitions,
  leavings: null,
  plays: null,
  undercurrents: [],
  voices: [],
  sections: [],
  curves: [STRAIGHT],
  springs: [],
  ...rest,
});

export const there = { from: 'a', to: 'b' };
export const back = { from: 'b', to: 'a' };
export const tap = (t_ms: number): Event => ({ t_ms, cue: 'tap', layer: 'box' });
