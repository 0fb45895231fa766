import { applyPatch } from 'fast-json-patch';
import { describe, expect, it } from 'vitest';
import type { Operation, Piece } from '../../../api/contract';
import { CannotBe } from './cannotBe';
import { intentOf, patchFor } from './intent';
import { known } from '../../../shared/known';

const curve = { kind: 'curve' as const, duration_ms: 200, easing: 'ease' };
const box = (id: string, x: number) => ({ kind: 'rectangle' as const, id, name: id, x, y: 0, width: 9, height: 9 });
const piece = {
  format: 1,
  id: 'p',
  name: 'P',
  width: 100,
  height: 100,
  ground: null,
  plays: null,
  layers: [box('one', 1), { ...box('all', 0), kind: 'group' as const, layers: [box('in', 2)] }, box('two', 3)],
  states: [
    { id: 'a', name: 'A', changes: { one: { x: 5 } } },
    { id: 'b', name: 'B' },
    { id: 'c', name: 'C' },
  ],
  start: 'a',
  transitions: [
    {
      id: 'ab',
      from: 'a',
      to: 'b',
      timing: { ...curve },
      lanes: [
        { layer: 'one', delay_ms: 10 },
        { layer: 'one', property: 'x', delay_ms: 5 },
      ],
    },
    { id: 'bc', from: 'b', to: 'c', timing: { ...curve } },
  ],
} as unknown as Piece;

const done = (to: Piece, patch: readonly Operation[]): Piece =>
  applyPatch(structuredClone(to), structuredClone(patch) as never, true).newDocument;
/** Mine was made for the piece as it stood; theirs came first. */
const after = (mine: Operation[], theirs: Operation[] = []): Piece => {
  const now = done(piece, theirs);
  return done(now, patchFor(now, intentOf(piece, mine)));
};
const set = (path: string, value: unknown): Operation => ({ op: 'add', path, value });
const remove = (path: string): Operation => ({ op: 'remove', path });

const PATCHES: Record<string, Operation[]> = {
  'a value': [set('/states/0/changes/one/x', 9)],
  'the first value of a state': [set('/states/1/changes', { two: { x: 4 } })],
  'a value taken back': [remove('/states/0/changes/one')],
  'a value of the base, deep in a group': [set('/layers/1/layers/0/x', 7)],
  'a new layer': [set('/layers/-', box('three', 0))],
  'a layer out of a group': [remove('/layers/1/layers/0'), set('/layers/1', box('in', 2))],
  'layers in another order': [{ op: 'move', from: '/layers/0', path: '/layers/2' }],
  'a new state in between': [
    set('/states/1', { id: 'n', name: 'N' }),
    set('/transitions', [...known(piece.transitions), { id: 'an', from: 'a', to: 'n', timing: { ...curve } }]),
  ],
  'states in another order': [{ op: 'move', from: '/states/2', path: '/states/0' }],
  'a state deleted': [remove('/states/2'), remove('/transitions/1')],
  'a lane': [
    set('/transitions/0/lanes', [
      { layer: 'one', delay_ms: 40 },
      { layer: 'one', property: 'x', delay_ms: 5 },
      { layer: 'two', delay_ms: 1 },
    ]),
  ],
  'the first lane': [set('/transitions/1/lanes', [{ layer: 'two', delay_ms: 1 }])],
  'another timing': [set('/transitions/1/timing', { kind: 'spring', stiffness: 100, damping: 10 })],
  'the start': [set('/start', 'b')],
};

describe('what an edit means', () => {
  it.each(Object.entries(PATCHES))('comes to the same where nothing else has changed: %s', (_, patch) => {
    expect(after(patch)).toEqual(done(piece, patch));
  });

  it('is about the thing it was about, wherever that stands by now', () => {
    expect(
      after(known(PATCHES['a value']), [set('/states/0', { id: 'n', name: 'N' })]).states.map((s) => s.changes?.one?.x),
    ).toEqual([undefined, 9, undefined, undefined]);
    expect(after([set('/transitions/1/hold_ms', 30)], [remove('/transitions/0')]).transitions).toMatchObject([
      { id: 'bc', hold_ms: 30 },
    ]);
    expect(after([set('/layers/2/x', 8)], [remove('/layers/0')]).layers).toMatchObject([
      { id: 'all' },
      { id: 'two', x: 8 },
    ]);
  });

  it('leaves alone what somebody else has changed beside it', () => {
    const delay = after(known(PATCHES['a lane']), [set('/transitions/0/lanes/1/delay_ms', 99)]);
    expect(known(known(known(delay.transitions)[0]).lanes).map((lane) => lane.delay_ms)).toEqual([40, 99, 1]);
    const easing = after(
      [set('/transitions/0/timing', { ...curve, easing: 'linear' })],
      [set('/transitions/0/timing/duration_ms', 777)],
    );
    expect(known(known(easing.transitions)[0]).timing).toEqual({ kind: 'curve', duration_ms: 777, easing: 'linear' });
    const look = after(known(PATCHES['the first value of a state']), [
      set('/states/1/changes', { two: { y: 6 }, one: { x: 1 } }),
    ]);
    expect(known(look.states[1]).changes).toEqual({ two: { x: 4, y: 6 }, one: { x: 1 } });
    expect(after(known(PATCHES['a value taken back']), [set('/states/0/changes/one/y', 3)]).states[0].changes).toEqual({
      one: { y: 3 },
    });
    const states = after(known(PATCHES['a new state in between']), [
      set('/states/-', { id: 'd', name: 'D' }),
      set('/transitions/0/hold_ms', 5),
    ]);
    expect(states.states.map((s) => s.id)).toEqual(['a', 'n', 'b', 'c', 'd']);
    expect(known(known(states.transitions)[0]).hold_ms).toBe(5);
  });

  it('says so where what it was about has gone, and is content where it has been done already', () => {
    const now = done(piece, [remove('/transitions/0'), remove('/states/0'), set('/start', 'b')]);
    expect(() => patchFor(now, intentOf(piece, known(PATCHES['a value'])))).toThrow(CannotBe);
    expect(() => patchFor(now, intentOf(piece, known(PATCHES['a lane'])))).toThrow('ab');
    const gone = done(piece, known(PATCHES['a state deleted']));
    expect(patchFor(gone, intentOf(piece, known(PATCHES['a state deleted'])))).toEqual([]);
  });
});
