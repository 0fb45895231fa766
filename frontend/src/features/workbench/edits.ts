/* Every edit of the workbench as a name and a JSON Patch. Pure: a document in, an edit out. */
import type { Layer, Operation, Piece, Transition, Value } from '../../api/answers';
import { placed, propertiesOf, propertyNamed, walk } from './tree';

export interface Edit {
  label: string;
  patch: Operation[];
}

/** Whether an edit reaches one state or the base that all states share. */
export type Scope = 'state' | 'base';
export type Timing = Transition['timing'];

const stateIndex = (piece: Piece, id: string) => piece.states.findIndex((state) => state.id === id);
const transitionIndex = (piece: Piece, id: string) => (piece.transitions ?? []).findIndex((t) => t.id === id);

/** The first of wanted, wanted-2, wanted-3 … that is free. */
export function freeId(taken: Iterable<string>, wanted: string): string {
  const used = new Set(taken);
  const plain = wanted.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 48).replace(/-+$/, '') || 'x';
  for (let n = 1; ; n++) {
    const candidate = n === 1 ? plain : `${plain}-${n}`;
    if (!used.has(candidate)) return candidate;
  }
}

/** Sets properties of a layer, in one state or in the base; what equals the base is not kept as a difference. */
export function setValues(piece: Piece, stateId: string, layerId: string, values: Record<string, Value>, scope: Scope): Edit {
  const { layer, path } = placed(piece, layerId)!;
  const base = layer as unknown as Record<string, Value>;
  const names = Object.keys(values).map((name) => propertyNamed(name).label);
  if (scope === 'base') {
    const patch = Object.entries(values).map<Operation>(([name, value]) => ({ op: 'add', path: `${path}/${name}`, value }));
    return { label: `${names.join(', ')} of ${layer.name}, all states`, patch };
  }
  const index = stateIndex(piece, stateId);
  const state = piece.states[index]!;
  const before = (state.changes?.[layerId] ?? {}) as Record<string, Value>;
  const after = { ...before, ...values };
  for (const name of Object.keys(values)) if (after[name] === (base[name] ?? propertyNamed(name).default)) delete after[name];
  return { label: `${names.join(', ')} of ${layer.name} in ${state.name}`, patch: replaceChanges(piece, index, layerId, before, after) };
}

/** Back to the base value. */
export function clearValue(piece: Piece, stateId: string, layerId: string, name: string): Edit {
  const index = stateIndex(piece, stateId);
  const before = (piece.states[index]!.changes?.[layerId] ?? {}) as Record<string, Value>;
  const after = { ...before };
  delete after[name];
  const layer = placed(piece, layerId)!.layer;
  return {
    label: `${propertyNamed(name).label} of ${layer.name} back to base`,
    patch: replaceChanges(piece, index, layerId, before, after),
  };
}

function replaceChanges(piece: Piece, index: number, layerId: string, before: object, after: object): Operation[] {
  const path = `/states/${index}/changes/${layerId}`;
  if (!Object.keys(after).length) return Object.keys(before).length ? [{ op: 'remove', path }] : [];
  const whole: Operation[] = piece.states[index]!.changes ? [] : [{ op: 'add', path: `/states/${index}/changes`, value: {} }];
  return [...whole, { op: 'add', path, value: after }];
}

// States

/** Cues that need no person. */
const BY_ITSELF: Transition['cue'][] = ['hold', 'appear', 'media-end'];
const AT_ONCE = { cue: 'hold', hold_ms: 0 } as const;

const quick = (from: string, to: string, taken: Iterable<string>): Transition => ({
  id: freeId(taken, `${from}-to-${to}`),
  from,
  to,
  cue: 'hold',
  hold_ms: 0,
  style: 'tween',
  timing: { kind: 'curve', duration_ms: 300, easing: 'ease-in-out' },
});

/** A state after this one that looks like it. What led on leads on from the new one; this one rests as long as before. */
export function addState(piece: Piece, afterId: string, name?: string): Edit & { id: string } {
  const index = stateIndex(piece, afterId);
  const source = piece.states[index]!;
  const called = name ?? `State ${piece.states.length + 1}`;
  const id = freeId(piece.states.map((s) => s.id), called);
  const transitions = piece.transitions ?? [];
  const leaving = transitions.filter((t) => t.from === afterId);
  const join = quick(afterId, id, transitions.map((t) => t.id));
  const [only] = leaving.length === 1 ? leaving : [];
  if (only) Object.assign(join, { cue: only.cue ?? 'hold', hold_ms: only.hold_ms ?? 0 });
  const rerouted = transitions.map((t) => (t.from === afterId ? { ...t, from: id, ...(only && AT_ONCE) } : t));
  const joined = [...rerouted, join];
  return {
    id,
    label: `Add state ${called}`,
    patch: [
      { op: 'add', path: `/states/${index + 1}`, value: { id, name: called, changes: source.changes ?? {} } },
      { op: 'add', path: '/transitions', value: joined },
    ],
  };
}

export const duplicateState = (piece: Piece, id: string) => addState(piece, id, `${piece.states[stateIndex(piece, id)]!.name} copy`);

export function renameState(piece: Piece, id: string, name: string): Edit {
  return { label: `Rename state to ${name}`, patch: [{ op: 'replace', path: `/states/${stateIndex(piece, id)}/name`, value: name }] };
}

export function moveState(piece: Piece, id: string, by: number): Edit {
  const from = stateIndex(piece, id);
  const to = Math.min(Math.max(from + by, 0), piece.states.length - 1);
  return { label: `Move state ${piece.states[from]!.name}`, patch: from === to ? [] : [{ op: 'move', from: `/states/${from}`, path: `/states/${to}` }] };
}

export function startAt(piece: Piece, id: string): Edit {
  return { label: `Start at ${piece.states[stateIndex(piece, id)]!.name}`, patch: [{ op: 'replace', path: '/start', value: id }] };
}

/** Removes a state; what led to it leads to where it led, in the way that led there. The inverse of `addState`. */
export function removeState(piece: Piece, id: string): Edit {
  const index = stateIndex(piece, id);
  const transitions = piece.transitions ?? [];
  const leaving = transitions.filter((t) => t.from === id && t.to !== id);
  const onward = leaving.find((t) => BY_ITSELF.includes(t.cue ?? 'hold')) ?? leaving[0];
  const heir = onward?.to;
  const kept = transitions
    .filter((t) => t.from !== id)
    .map((t) => (t.to === id && onward ? { ...onward, id: t.id, from: t.from, cue: t.cue ?? 'hold', hold_ms: t.hold_ms ?? 0 } : t))
    .filter((t) => t.to !== id && t.from !== t.to);
  const patch: Operation[] = [{ op: 'remove', path: `/states/${index}` }, { op: 'add', path: '/transitions', value: kept }];
  if (piece.start === id) patch.push({ op: 'replace', path: '/start', value: heir ?? piece.states.find((s) => s.id !== id)!.id });
  return { label: `Delete state ${piece.states[index]!.name}`, patch };
}

// Transitions

export function addTransition(piece: Piece, from: string, to: string): Edit & { id: string } {
  const transition = quick(from, to, (piece.transitions ?? []).map((t) => t.id));
  const patch: Operation[] = piece.transitions
    ? [{ op: 'add', path: '/transitions/-', value: transition }]
    : [{ op: 'add', path: '/transitions', value: [transition] }];
  return { id: transition.id, label: 'Add transition', patch };
}

export function removeTransition(piece: Piece, id: string): Edit {
  return { label: 'Delete transition', patch: [{ op: 'remove', path: `/transitions/${transitionIndex(piece, id)}` }] };
}

export function setTransition(piece: Piece, id: string, label: string, values: Partial<Transition>): Edit {
  const path = `/transitions/${transitionIndex(piece, id)}`;
  return { label, patch: Object.entries(values).map(([name, value]) => ({ op: 'add', path: `${path}/${name}`, value })) };
}

/** The lane of a layer with these values; a lane that says nothing of its own is dropped. */
export function setLane(piece: Piece, id: string, layerId: string, values: { delay_ms?: number; timing?: Timing | null }): Edit {
  const transition = piece.transitions![transitionIndex(piece, id)]!;
  const lanes = transition.lanes ?? [];
  const own = (lane: (typeof lanes)[number]) => lane.layer === layerId && !lane.property;
  const lane = { layer: layerId, delay_ms: 0, ...lanes.find(own), ...values };
  const said = lane.delay_ms || lane.timing;
  const others = lanes.filter((other) => !own(other));
  const name = placed(piece, layerId)!.layer.name;
  return setTransition(piece, id, `Lane of ${name}`, { lanes: said ? [...others, lane] : others });
}

// Layers

/** What can be added from nothing. */
export type Drawn = Exclude<Layer['kind'], 'picture' | 'medium'>;

const FRESH: Record<Drawn, object> = {
  rectangle: { width: 80, height: 48, fill: '#1f7a70' },
  ellipse: { width: 56, height: 56, fill: '#b9832b' },
  path: { width: 64, height: 32, view_width: 64, view_height: 32, path: 'M0 32L32 0L64 32', fill: 'none', stroke: '#15293b', stroke_width: 4 },
  text: { width: 120, height: 24, text: 'Text', fill: '#15293b', font_size: 16 },
  group: { width: 96, height: 64, layers: [] },
};

/** A new layer on top, in the middle of the piece. */
export function addLayer(piece: Piece, kind: Drawn): Edit & { id: string } {
  const size = FRESH[kind] as { width: number; height: number };
  const name = kind[0]!.toUpperCase() + kind.slice(1);
  const id = freeId(walk(piece.layers ?? []).map((p) => p.layer.id), kind);
  const x = Math.round((piece.width - size.width) / 2);
  const y = Math.round((piece.height - size.height) / 2);
  const layer = { kind, id, name, x, y, ...size };
  const patch: Operation[] = piece.layers
    ? [{ op: 'add', path: '/layers/-', value: layer }]
    : [{ op: 'add', path: '/layers', value: [layer] }];
  return { id, label: `Add ${kind}`, patch };
}

/** A copy just above, with everything inside it, and with its differences in every state. */
export function duplicateLayer(piece: Piece, id: string): Edit & { id: string } {
  const { layer, path, index } = placed(piece, id)!;
  const taken = new Set(walk(piece.layers ?? []).map((p) => p.layer.id));
  const renamed = new Map<string, string>();
  const copy = (original: Layer): Layer => {
    const fresh = freeId(taken, original.id);
    taken.add(fresh);
    renamed.set(original.id, fresh);
    const inner = original.kind === 'group' ? { layers: (original.layers ?? []).map(copy) } : {};
    return { ...original, ...inner, id: fresh } as Layer;
  };
  const value = { ...copy(layer), name: `${layer.name} copy` };
  const patch: Operation[] = [{ op: 'add', path: path.replace(/\d+$/, String(index + 1)), value }];
  piece.states.forEach((state, s) => {
    for (const [from, to] of renamed) {
      const changes = state.changes?.[from];
      if (changes) patch.push({ op: 'add', path: `/states/${s}/changes/${to}`, value: changes });
    }
  });
  return { id: renamed.get(id)!, label: `Duplicate ${layer.name}`, patch };
}

/** Removes a layer with all that states and transitions say of it. */
export function removeLayer(piece: Piece, id: string): Edit {
  const { layer, path } = placed(piece, id)!;
  const gone = new Set(walk([layer]).map((p) => p.layer.id));
  const patch: Operation[] = [];
  piece.states.forEach((state, s) => {
    for (const name of Object.keys(state.changes ?? {})) if (gone.has(name)) patch.push({ op: 'remove', path: `/states/${s}/changes/${name}` });
  });
  (piece.transitions ?? []).forEach((transition, t) => {
    const lanes = transition.lanes ?? [];
    const kept = lanes.filter((lane) => !gone.has(lane.layer));
    if (kept.length < lanes.length) patch.push({ op: 'add', path: `/transitions/${t}/lanes`, value: kept });
  });
  return { label: `Delete ${layer.name}`, patch: [...patch, { op: 'remove', path }] };
}

export function renameLayer(piece: Piece, id: string, name: string): Edit {
  return { label: `Rename layer to ${name}`, patch: [{ op: 'replace', path: `${placed(piece, id)!.path}/name`, value: name }] };
}

/** Moves a layer among its siblings, upwards in the picture with a positive `by`. */
export function moveLayer(piece: Piece, id: string, by: number): Edit {
  const { layer, path, index, siblings } = placed(piece, id)!;
  const to = Math.min(Math.max(index + by, 0), siblings.length - 1);
  return { label: `Move ${layer.name}`, patch: to === index ? [] : [{ op: 'move', from: path, path: path.replace(/\d+$/, String(to)) }] };
}

export function setFixed(piece: Piece, id: string, name: string, value: Value | boolean): Edit {
  const { layer, path } = placed(piece, id)!;
  return { label: `${name} of ${layer.name}`, patch: [{ op: 'add', path: `${path}/${name}`, value }] };
}

/** How many rows a score with everything would have. */
export const countProperties = (layers: readonly Layer[]): number =>
  walk(layers).reduce((sum, { layer }) => sum + propertiesOf(layer).filter((p) => p.varies).length, 0);
