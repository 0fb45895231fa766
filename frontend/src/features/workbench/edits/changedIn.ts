/* Where two versions of a piece differ, as what can be chosen there. Pure. */
import equal from 'fast-deep-equal';
import type { Layer, Piece } from '../../../api/contract';
import { walk } from '../tree';

export interface ChangedPlaces {
  states: string[];
  layers: string[];
  transitions: string[];
}

/** What of the later version is new or other than it was. */
export function changedIn(before: Piece, after: Piece): ChangedPlaces {
  const had = new Map(before.states.map((state) => [state.id, state]));
  const states = after.states.filter((state) => !equal(state, had.get(state.id)));
  const looks = states.flatMap(({ id, changes = {} }) => {
    const old = had.get(id)?.changes ?? {};
    return [...new Set([...Object.keys(changes), ...Object.keys(old)])].filter(
      (name) => !equal(changes[name], old[name]),
    );
  });
  const rows = new Map(walk(before.layers ?? []).map(({ layer }) => [layer.id, alone(layer)]));
  const there = walk(after.layers ?? []).map(({ layer }) => layer);
  const own = there.filter((layer) => !equal(alone(layer), rows.get(layer.id))).map(({ id }) => id);
  const ways = new Map((before.transitions ?? []).map((transition) => [transition.id, transition]));
  return {
    states: states.map(({ id }) => id),
    layers: there.map(({ id }) => id).filter((id) => own.includes(id) || looks.includes(id)),
    transitions: (after.transitions ?? []).filter((each) => !equal(each, ways.get(each.id))).map(({ id }) => id),
  };
}

/** Without what it holds. */
const alone = (layer: Layer) => ({ ...layer, layers: null });
