/* Edits of the list of states. */
import type { Operation, Piece, Transition } from '../../../api/contract';
import { freeId, freeNameAmong, stateIndex, type Edit } from './edit';
import { unbound } from './parameters';
import { quick } from './transitions';
import { stateNamed } from '../tree';
import { known } from '../../../shared/known';

/** Cues that need no person. */
const BY_ITSELF: Transition['cue'][] = ['hold', 'appear', 'media-end', 'reaches'];
const AT_ONCE = { cue: 'hold', hold_ms: 0 } as const;

/** A state after this one that looks like it. What led on leads on from the new one; this one rests as long as before. */
export function addState(piece: Piece, afterId: string): Edit & { id: string } {
  const index = stateIndex(piece, afterId);
  const source = known(piece.states[index]);
  const called = freeName(piece, `State ${piece.states.length + 1}`);
  const id = freeId(
    piece.states.map((s) => s.id),
    called,
  );
  const transitions = piece.transitions ?? [];
  const leaving = transitions.filter((t) => t.from === afterId);
  const join = quick(
    afterId,
    id,
    transitions.map((t) => t.id),
  );
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

/** A state at the end that looks like this one, to which a way leads that changes nothing else: by itself where this
 * one has no such way yet, else by a tap. */
export function addBranch(piece: Piece, fromId: string): Edit & { id: string } {
  const { id, add } = alike(piece, fromId, `State ${piece.states.length + 1}`, piece.states.length);
  const transitions = piece.transitions ?? [];
  const leavesByItself = transitions.some((t) => t.from === fromId && BY_ITSELF.includes(t.cue ?? 'hold'));
  const join = quick(
    fromId,
    id,
    transitions.map((t) => t.id),
  );
  if (leavesByItself) join.cue = 'tap';
  return {
    id,
    label: `Add state ${add.value.name} as a branch`,
    patch: [add, { op: 'add', path: '/transitions', value: [...transitions, join] }],
  };
}

/** A copy beside this state, to which nothing leads yet. */
export function duplicateState(piece: Piece, ofId: string): Edit & { id: string } {
  const { id, add } = alike(piece, ofId, stateNamed(piece, ofId).name, stateIndex(piece, ofId) + 1);
  return { id, label: `Duplicate state ${stateNamed(piece, ofId).name}`, patch: [add] };
}

function alike(piece: Piece, ofId: string, wanted: string, index: number) {
  const name = freeName(piece, wanted);
  const id = freeId(
    piece.states.map((s) => s.id),
    name,
  );
  const value = { id, name, changes: stateNamed(piece, ofId).changes ?? {} };
  return { id, add: { op: 'add' as const, path: `/states/${index}`, value } };
}

/** A state before this one that looks like it: what led here leads there first, and from there here at once. */
export function addStateBefore(piece: Piece, id: string): Edit & { id: string } {
  const index = stateIndex(piece, id);
  const called = freeName(piece, `State ${piece.states.length + 1}`);
  const fresh = freeId(
    piece.states.map((s) => s.id),
    called,
  );
  const transitions = piece.transitions ?? [];
  const join = quick(
    fresh,
    id,
    transitions.map((t) => t.id),
  );
  const rerouted = transitions.map((t) => (t.to === id ? { ...t, to: fresh } : t));
  const patch: Operation[] = [
    {
      op: 'add',
      path: `/states/${index}`,
      value: { id: fresh, name: called, changes: known(piece.states[index]).changes ?? {} },
    },
    { op: 'add', path: '/transitions', value: [...rerouted, join] },
  ];
  if (piece.start === id) patch.push({ op: 'replace', path: '/start', value: fresh });
  return { id: fresh, label: `Add state ${called} before ${known(piece.states[index]).name}`, patch };
}

/** A state in the middle of a transition. Both ways there take half as long, where that can be said. */
export function addStateBetween(piece: Piece, way: string, changes: object): Edit & { id: string } {
  const transitions = piece.transitions ?? [];
  const before = known(transitions.find((t) => t.id === way));
  const called = freeName(piece, `State ${piece.states.length + 1}`);
  const fresh = freeId(
    piece.states.map((s) => s.id),
    called,
  );
  const { timing } = before;
  const [first, second] =
    timing.kind === 'spring'
      ? [timing, timing]
      : [
          { ...timing, duration_ms: Math.ceil(timing.duration_ms / 2) },
          { ...timing, duration_ms: Math.floor(timing.duration_ms / 2) },
        ];
  const id = freeId(
    transitions.map((t) => t.id),
    `${fresh}-to-${before.to}`,
  );
  const onward: Transition = { ...before, id, from: fresh, timing: second, ...AT_ONCE };
  delete onward.cue_layer;
  const split = transitions.flatMap((t) => (t.id === way ? [{ ...t, to: fresh, timing: first }, onward] : [t]));
  const patch: Operation[] = [
    { op: 'add', path: `/states/${stateIndex(piece, before.from) + 1}`, value: { id: fresh, name: called, changes } },
    { op: 'add', path: '/transitions', value: split },
  ];
  return { id: fresh, label: `Add state ${called} halfway`, patch };
}

/** Two states never have one name. */
export const freeName = (piece: Piece, wanted: string, own?: string): string =>
  freeNameAmong(new Set(piece.states.filter((state) => state.id !== own).map((state) => state.name)), wanted);

export function renameState(piece: Piece, id: string, wanted: string): Edit {
  const name = freeName(piece, wanted, id);
  return {
    label: `Rename state to ${name}`,
    patch: [{ op: 'replace', path: `/states/${stateIndex(piece, id)}/name`, value: name }],
  };
}

export function moveState(piece: Piece, id: string, by: number): Edit {
  const from = stateIndex(piece, id);
  const to = Math.min(Math.max(from + by, 0), piece.states.length - 1);
  return {
    label: `Move state ${known(piece.states[from]).name}`,
    patch: from === to ? [] : [{ op: 'move', from: `/states/${from}`, path: `/states/${to}` }],
  };
}

export function startAt(piece: Piece, id: string): Edit {
  return { label: `Start at ${stateNamed(piece, id).name}`, patch: [{ op: 'replace', path: '/start', value: id }] };
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
    .map((t) =>
      t.to === id && onward ? { ...onward, id: t.id, from: t.from, cue: t.cue ?? 'hold', hold_ms: t.hold_ms ?? 0 } : t,
    )
    .filter((t) => t.to !== id && t.from !== t.to);
  const patch: Operation[] = [
    { op: 'remove', path: `/states/${index}` },
    { op: 'add', path: '/transitions', value: kept },
  ];
  if (piece.undercurrents?.some((u) => u.states?.includes(id))) {
    const left = piece.undercurrents.map((u) =>
      u.states ? { ...u, states: u.states.filter((state) => state !== id) } : u,
    );
    patch.push({ op: 'add', path: '/undercurrents', value: left.filter((u) => u.states?.length !== 0) });
  }
  const stopped = (piece.undercurrents ?? []).filter((u) => u.states?.every((state) => state === id)).map((u) => u.id);
  const ways = new Set(kept.map((t) => t.id));
  patch.push(
    ...unbound(
      piece,
      (bind) =>
        bind.state === id ||
        stopped.includes(bind.undercurrent ?? '') ||
        (!!bind.transition && !ways.has(bind.transition)),
    ),
  );
  if (piece.start === id)
    patch.push({ op: 'replace', path: '/start', value: heir ?? known(piece.states.find((s) => s.id !== id)).id });
  return { label: `Delete state ${known(piece.states[index]).name}`, patch };
}
