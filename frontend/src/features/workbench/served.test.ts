import { describe, expect, it } from 'vitest';
import type { ChangeAnswer, Piece, Run, TransitionReading } from '../../api/contract';
import { chosenIn, NOTHING_CHOSEN } from './chosen';
import { NOTHING_SERVED, servedAfter, type Served } from './served';

const piece = (...states: string[]): Piece => ({
  format: 1,
  id: 'piece',
  name: 'Piece',
  width: 10,
  height: 10,
  layers: [{ kind: 'rectangle', id: 'box', name: 'Box', x: 0, y: 0, width: 1, height: 1, fill: '#15293b' }],
  states: states.map((id) => ({ id, name: id })) as Piece['states'],
  start: states[0] ?? '',
  transitions: states.slice(1).map((to, i) => ({
    id: `to-${to}`,
    from: states[i] ?? '',
    to,
    timing: { kind: 'curve', duration_ms: 100 },
  })),
});
const reading = { moves: [], fade: null } as unknown as TransitionReading;
const run = (...legs: string[]): Run => ({ ...NOTHING_SERVED.run, legs });
const before: Served = {
  ...NOTHING_SERVED,
  id: 'piece',
  revision: 3,
  document: piece('off', 'on', 'gone'),
  poses: { off: { box: { x: 0 } }, on: { box: { x: 5 } }, gone: { box: { x: 9 } } },
  run: run('to-on', 'to-gone'),
  readings: { 'to-on': reading, 'to-gone': reading },
};
const answer = (some: Partial<ChangeAnswer>): ChangeAnswer => ({
  ...{
    id: 'piece',
    revision: 4,
    holds: '',
    undo: 'Edit',
    redo: null,
    seam: null,
    run: null,
    patch: [],
    poses: {},
    transitions: {},
  },
  ...some,
});

describe('what the server said', () => {
  it('after an edit holds what changed, and the rest as the same objects', () => {
    const { plays, said } = servedAfter(before, answer({ poses: { on: { box: { x: 7 } } } }));
    expect(said.poses).toEqual({ off: { box: { x: 0 } }, on: { box: { x: 7 } }, gone: { box: { x: 9 } } });
    expect(said.poses.off).toBe(before.poses.off);
    expect(said.readings['to-on']).toBe(reading);
    expect(plays.run).toBe(before.run);
    expect([said.revision, said.undo]).toEqual([4, 'Edit']);
  });

  it('still plays a state that is gone, and says nothing of it', () => {
    const patch: ChangeAnswer['patch'] = [
      { op: 'remove', path: '/transitions/1' },
      { op: 'remove', path: '/states/2' },
    ];
    const { plays, said } = servedAfter(before, answer({ patch, run: run('to-on') }));
    expect(Object.keys(plays.poses)).toContain('gone');
    expect(Object.keys(said.poses)).toEqual(['off', 'on']);
    expect(Object.keys(said.readings)).toEqual(['to-on']);
    expect([...plays.tape.keys()]).toEqual(['to-on']);
  });
});

describe('what is chosen', () => {
  const chosen = { ...NOTHING_CHOSEN, state: 'gone', layer: 'box', others: ['lost'], transition: 'to-gone' };

  it('is what is still there', () =>
    expect(chosenIn(piece('off', 'on'), chosen, piece('off', 'on', 'gone'))).toMatchObject({
      ...{ state: 'off', layer: 'box', others: [], transition: null },
    }));

  it.each([
    [['off'], null, false, 'base'],
    [['off', 'on'], null, false, 'state'],
    [['off', 'on'], ['off'], false, 'state'],
    [['off', 'on'], ['off'], true, 'base'],
    [['off', 'on', 'more'], ['off', 'on'], false, 'base'],
  ])('of %s after %s, said by somebody: %s, edits reach the %s', (states, earlier, scopeIsChosen, scope) =>
    expect(
      chosenIn(piece(...states), { ...NOTHING_CHOSEN, scope: 'base', scopeIsChosen }, earlier && piece(...earlier)),
    ).toMatchObject({ scope }),
  );
});
