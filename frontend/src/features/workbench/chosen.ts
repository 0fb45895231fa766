/* What is chosen of the piece, and what edits of that reach. Pure. */
import type { Piece } from '../../api/contract';
import { chainTo } from '../../shared/geometry/matrix';
import { traitIn, type ChangedPlaces, type Scope } from './edits';
import { firstOf, lastOf } from '../../shared/known';

export interface Chosen {
  state: string;
  layer: string | null;
  /** Chosen besides `layer`. */
  others: readonly string[];
  transition: string | null;
  /** Chosen besides `transition`. */
  alsoWays: readonly string[];
  /** The layer whose lane the inspector shows; null for the transition itself. */
  lane: string | null;
  /** Its property that has a lane of its own; null for the layer. */
  laneProperty: string | null;
  /** The undercurrent that the inspector shows. */
  undercurrent: string | null;
  scope: Scope;
  /** Somebody has said what edits reach. */
  scopeIsChosen: boolean;
  /** A layer that was just added: until something else is chosen it is being placed, in all states. */
  fresh: string | null;
  askedRows: string[];
}

export const ALONE: readonly string[] = [];

export const NOTHING_CHOSEN: Chosen = {
  state: '',
  layer: null,
  others: ALONE,
  transition: null,
  alsoWays: ALONE,
  lane: null,
  laneProperty: null,
  undercurrent: null,
  scope: 'state',
  scopeIsChosen: false,
  fresh: null,
  askedRows: [],
};

/** What was chosen, as far as it is still there; `earlier` is the document before, none where the piece is opened. */
export function chosenIn(document: Piece, before: Chosen, earlier: Piece | null): Partial<Chosen> {
  const states = document.states.map((s) => s.id);
  const transitions = document.transitions ?? [];
  const isThere = (id: string) => chainTo(document.layers ?? [], id).length > 0;
  const left = chosenLayers(before).filter(isThere);
  return {
    state: states.includes(before.state) ? before.state : document.start,
    transition: transitions.some((t) => t.id === before.transition) ? before.transition : null,
    undercurrent: document.undercurrents?.some(({ id }) => id === before.undercurrent) ? before.undercurrent : null,
    alsoWays: before.alsoWays.every((id) => transitions.some((t) => t.id === id)) ? before.alsoWays : ALONE,
    layer: left.at(-1) ?? null,
    others: left.length - 1 === before.others.length ? before.others : left.slice(0, -1),
    scope: scopeIn(document, before, earlier),
  };
}

/** More than that at once is no place to go to. */
const MOST_GONE_TO = 12;

/** What to look at where a piece has changed: the state, and there the layers, or else the transitions. */
export function chosenAfter(now: Chosen, { states, layers, transitions }: ChangedPlaces): Partial<Chosen> {
  const toState = states.length && !states.includes(now.state) ? { state: firstOf(states) } : {};
  if (layers.length > 0 && layers.length <= MOST_GONE_TO)
    return { ...toState, layer: lastOf(layers), others: layers.slice(0, -1), transition: null, alsoWays: ALONE };
  if (layers.length || !transitions.length || transitions.length > MOST_GONE_TO) return toState;
  const isThere = transitions.length === 1 && transitions[0] === now.transition;
  if (isThere) return toState;
  return { ...toState, transition: lastOf(transitions), alsoWays: transitions.slice(0, -1), lane: null };
}

/** What edits reach is the designer's word. Until it is said a piece opens with its base where it has one state, since
 * nothing could be told apart from it, and goes over to the states with the second. */
function scopeIn(document: Piece, before: Chosen, earlier: Piece | null): Scope {
  const isGone = before.scope.startsWith('option:') && !traitIn(document, before.scope);
  if (before.scopeIsChosen && !isGone) return before.scope;
  if (!earlier) return document.states.length === 1 ? 'base' : 'state';
  if (isGone || (earlier.states.length === 1 && document.states.length > 1)) return 'state';
  return before.scope;
}

/** What an edit of these layers reaches: the base of one that is just being placed, or as it was said. */
export const reaches = ({ scope, fresh }: Pick<Chosen, 'scope' | 'fresh'>, ids: readonly string[]): Scope =>
  ids.length === 1 && ids[0] === fresh ? 'base' : scope;

/** All chosen layers, the one chosen last at the end. */
export const chosenLayers = ({ layer, others }: Pick<Chosen, 'layer' | 'others'>): string[] =>
  layer ? [...others, layer] : [];

/** All chosen transitions, the one chosen last at the end. */
export const chosenWays = ({ transition, alsoWays }: Pick<Chosen, 'transition' | 'alsoWays'>): string[] =>
  transition ? [...alsoWays, transition] : [];
