import { describe, expect, it } from 'vitest';
import type { Piece } from '../../../api/contract';
import { chosenAfter, NOTHING_CHOSEN } from '../chosen';
import { changedIn } from './changedIn';

const box = { x: 0, y: 0, width: 10, height: 10 };
const PIECE: Piece = {
  ...{ format: 1, id: 'p', name: 'P', width: 100, height: 100, start: 'a' },
  layers: [
    {
      ...{ ...box, kind: 'group', id: 'pair', name: 'Pair' },
      layers: [{ ...box, kind: 'ellipse', id: 'dot', name: 'Dot' }],
    },
  ],
  states: [
    { id: 'a', name: 'A' },
    { id: 'b', name: 'B', changes: { dot: { x: 4 } } },
  ],
  transitions: [{ id: 'a-b', from: 'a', to: 'b', timing: { kind: 'curve', duration_ms: 200, easing: 'ease' } }],
};
const NOWHERE = { states: [], layers: [], transitions: [] };

describe('where a piece has changed', () => {
  const [first, second] = PIECE.states;
  const group = PIECE.layers?.[0] as object;
  it.each<[string, Partial<Piece>, object]>([
    ['nowhere', {}, {}],
    [
      'a look',
      { states: [first, { ...second, changes: { dot: { x: 5 } } }] } as never,
      { states: ['b'], layers: ['dot'] },
    ],
    [
      'a look that is gone',
      { states: [first, { ...second, changes: {} }] } as never,
      { states: ['b'], layers: ['dot'] },
    ],
    ['a group alone', { layers: [{ ...group, x: 9 }] } as never, { layers: ['pair'] }],
    [
      'inside a group',
      { layers: [{ ...group, layers: [{ ...box, kind: 'ellipse', id: 'new', name: 'New' }] }] } as never,
      { layers: ['new'] },
    ],
    ['a transition', { transitions: [{ ...PIECE.transitions?.[0], hold_ms: 9 }] } as never, { transitions: ['a-b'] }],
  ])('%s', (_, change, found) => expect(changedIn(PIECE, { ...PIECE, ...change })).toEqual({ ...NOWHERE, ...found }));

  it.each([
    ['nothing is gone to', NOWHERE, {}],
    ['a state and its layer', { ...NOWHERE, states: ['b'], layers: ['dot'] }, { state: 'b', layer: 'dot', others: [] }],
    ['the state that is looked at stays', { ...NOWHERE, states: ['a', 'b'] }, {}],
    ['a transition', { ...NOWHERE, transitions: ['a-b'] }, { transition: 'a-b', alsoWays: [] }],
    ['too many layers', { ...NOWHERE, layers: Array.from('abcdefghijklm') }, {}],
  ])('%s', (_, places, chosen) => expect(chosenAfter({ ...NOTHING_CHOSEN, state: 'a' }, places)).toMatchObject(chosen));
});
