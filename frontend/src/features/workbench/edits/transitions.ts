/* Edits of transitions and their lanes. */
import type { Operation, Piece, Transition } from '../../../api/contract';
import { placed, transitionNamed } from '../tree';
import { unbound } from './parameters';
import { freeId, inTurn, type Edit, type Timing } from './edit';

const transitionIndex = (piece: Piece, id: string) => (piece.transitions ?? []).findIndex((t) => t.id === id);

/** What a new transition is until it is told otherwise. */
export const quick = (from: string, to: string, taken: Iterable<string>): Transition => ({
  id: freeId(taken, `${from}-to-${to}`),
  from,
  to,
  cue: 'hold',
  hold_ms: 0,
  style: 'tween',
  timing: { kind: 'curve', duration_ms: 300, easing: 'ease-in-out' },
});

export function addTransition(
  piece: Piece,
  from: string,
  to: string,
  values: Partial<Transition> = {},
): Edit & { id: string } {
  const transition = {
    ...quick(
      from,
      to,
      (piece.transitions ?? []).map((t) => t.id),
    ),
    ...values,
  };
  const patch: Operation[] = piece.transitions
    ? [{ op: 'add', path: '/transitions/-', value: transition }]
    : [{ op: 'add', path: '/transitions', value: [transition] }];
  return { id: transition.id, label: 'Add transition', patch };
}

/** From each state to each other by a tap; what leads there by itself already waits for the tap too. */
export function joinAll(piece: Piece): Edit {
  const ids = piece.states.map(({ id }) => id);
  const pairs = ids.flatMap((from) => ids.filter((to) => to !== from).map((to) => ({ from, to })));
  const leads = (now: Piece, from: string, to: string) =>
    (now.transitions ?? []).find((way) => way.from === from && way.to === to);
  const byTap = { cue: 'tap', hold_ms: 0 } as const;
  return inTurn(
    piece,
    'Join all states',
    pairs.map(({ from, to }) => (now) => {
      const way = leads(now, from, to);
      if (!way) return addTransition(now, from, to, byTap);
      return (way.cue ?? 'hold') === 'hold' ? setTransition(now, way.id, '', byTap) : { label: '', patch: [] };
    }),
  );
}

/** What undoes a cue: the pointer that leaves what it came over, a second tap. */
const OPPOSITES: Partial<Record<NonNullable<Transition['cue']>, Transition['cue']>> = {
  over: 'out',
  out: 'over',
  press: 'release',
  release: 'press',
  focus: 'blur',
  blur: 'focus',
  'in-view': 'out-of-view',
  'out-of-view': 'in-view',
  'long-press': 'tap',
};
/** What starts these comes once, and not back: the way back goes by itself. */
const NOT_BACK = ['appear', 'media-end', 'reaches'];

/** A transition from the second state to the first, in the same time, on the opposite cue. */
export function addWayBack(piece: Piece, way: Transition): Edit & { id: string } {
  const { from, to, timing, style, hold_ms, cue_layer, cue_key, cue_share } = way;
  const cue = way.cue ?? 'hold';
  const aimed = isAimed(cue) ? { cue_layer, cue_key, cue_share } : {};
  const values = { timing, style, hold_ms, cue: NOT_BACK.includes(cue) ? 'hold' : (OPPOSITES[cue] ?? cue), ...aimed };
  const said = Object.entries(values).filter(([, value]) => value !== undefined && value !== null);
  return { ...addTransition(piece, to, from, Object.fromEntries(said)), label: 'Add way back' };
}

const isAimed = (cue: string) => cue !== 'hold' && !NOT_BACK.includes(cue);

export function removeTransition(piece: Piece, id: string): Edit {
  const patch = unbound(piece, (bind) => bind.transition === id);
  return {
    label: 'Delete transition',
    patch: [...patch, { op: 'remove', path: `/transitions/${transitionIndex(piece, id)}` }],
  };
}

export function setTransition(piece: Piece, id: string, label: string, values: Partial<Transition>): Edit {
  const path = `/transitions/${transitionIndex(piece, id)}`;
  return {
    label,
    patch: Object.entries(values).map(([name, value]) => ({ op: 'add', path: `${path}/${name}`, value })),
  };
}

/** Sets all of them at once; only what is given changes. */
export function setTransitions(
  piece: Piece,
  ids: readonly string[],
  label: string,
  valuesOf: (own: Transition) => Partial<Transition>,
): Edit {
  const found = ids.map((id) => transitionNamed(piece, id));
  return inTurn(
    piece,
    `${label} of ${ids.length} transitions`,
    found.map((own) => (now: Piece) => setTransition(now, own.id, '', valuesOf(own))),
  );
}

/** A timing changed as another one was: what that kept is kept, where both are of a kind. */
export function changedLike(own: Timing, before: Timing, after: Timing): Timing {
  if (own.kind !== after.kind || before.kind !== after.kind) return after;
  const changed = Object.entries(after).filter(
    ([name, value]) => (before as unknown as Record<string, unknown>)[name] !== value,
  );
  return { ...own, ...Object.fromEntries(changed) };
}

type Lane = NonNullable<Transition['lanes']>[number];
export type Anchor = NonNullable<Lane['anchor']>;
export type Stagger = NonNullable<Transition['staggers']>[number];

export interface LaneValues {
  delay_ms?: number;
  timing?: Timing | null;
  anchor?: Anchor | null;
}

/** The lane that says when this property moves: its own, else that of its layer. */
export function laneOf(
  transitions: readonly Transition[],
  id: string,
  layer: string,
  property: string,
): Lane | undefined {
  const lanes = (transitions.find((t) => t.id === id)?.lanes ?? []).filter((lane) => lane.layer === layer);
  return lanes.find((lane) => lane.property === property) ?? lanes.find((lane) => !lane.property);
}

/** The layers that start when this one does, or by it, one after another: none of them can be what it waits for. */
export function linkedOn({ lanes = [] }: Transition, layer: string): ReadonlySet<string> {
  const found = new Set<string>();
  const waiting = [layer];
  for (const each of waiting) {
    for (const lane of lanes) {
      if (lane.anchor?.layer !== each || found.has(lane.layer)) continue;
      found.add(lane.layer);
      waiting.push(lane.layer);
    }
  }
  return found;
}

/** Several lanes of several transitions at once. */
export function setLanes(
  piece: Piece,
  wishes: readonly { transition: string; layer: string; values: LaneValues; property?: string | null }[],
  label: string,
): Edit {
  return inTurn(
    piece,
    label,
    wishes.map(
      ({ transition, layer, values, property }) =>
        (now) =>
          setLane(now, transition, layer, values, property),
    ),
  );
}

/** Puts layers one after another inside a transition, in place of what staggered any of them; null lets them start together. */
export function setStagger(
  piece: Piece,
  id: string,
  layers: readonly string[],
  stagger: Omit<Stagger, 'layers'> | null,
): Edit {
  const { staggers = [], lanes = [] } = transitionNamed(piece, id);
  const others = staggers.filter((other) => !other.layers.some((layer) => layers.includes(layer)));
  const next = stagger ? [...others, { ...stagger, layers: [...layers] }] : others;
  // Delays of their own would be added to those of the stagger.
  const kept = lanes.map((lane) =>
    stagger && layers.includes(lane.layer) && !lane.anchor ? { ...lane, delay_ms: 0 } : lane,
  );
  return setTransition(piece, id, `Stagger ${layers.length} layers`, {
    staggers: next as Stagger[],
    ...(lanes.length && { lanes: kept }),
  });
}

/** The lane of a layer, or of one of its properties, with these values; a lane that says nothing of its own is dropped. */
export function setLane(
  piece: Piece,
  id: string,
  layerId: string,
  values: LaneValues,
  property: string | null = null,
): Edit {
  const lanes = lanesOf(piece, id);
  const own = isLaneOf(layerId, property);
  // A property begins with what its layer has; where that has a lane, one that says nothing says just that.
  const ofLayer = property === null ? undefined : lanes.find(isLaneOf(layerId, null));
  const lane = {
    ...ofLayer,
    layer: layerId,
    ...(property && { property }),
    delay_ms: ofLayer?.delay_ms ?? 0,
    ...lanes.find(own),
    ...values,
  } as Lane;
  const said = lane.delay_ms || lane.timing || lane.anchor || lane.style === 'cut' || ofLayer;
  const others = lanes.filter((other) => !own(other));
  return setTransition(piece, id, `Lane of ${placed(piece, layerId).layer.name}`, {
    lanes: said ? [...others, lane] : others,
  });
}

/** A property gets a lane of its own, and goes on as it did. */
export function timeAlone(piece: Piece, id: string, layerId: string, property: string): Edit {
  const transition = transitionNamed(piece, id);
  const ofLayer = lanesOf(piece, id).find(isLaneOf(layerId, null));
  return setLane(piece, id, layerId, { timing: ofLayer?.timing ?? transition.timing }, property);
}

/** A property goes with its layer again. */
export function removeLane(piece: Piece, id: string, layerId: string, property: string): Edit {
  const own = isLaneOf(layerId, property);
  return setTransition(piece, id, `Lane of ${placed(piece, layerId).layer.name}`, {
    lanes: lanesOf(piece, id).filter((lane) => !own(lane)),
  });
}

const lanesOf = (piece: Piece, id: string): readonly Lane[] => transitionNamed(piece, id).lanes ?? [];
const isLaneOf = (layer: string, property: string | null) => (lane: Lane) =>
  lane.layer === layer && (lane.property ?? null) === property;
