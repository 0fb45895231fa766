import { describe, expect, it } from 'vitest';
import type { Piece, Run } from '../../api/contract';
import { howToPlay, standingStill } from './standing';

const run = (final_state: string, total_ms = 0) => ({ final_state, total_ms, segments: [] }) as unknown as Run;
const piece = (...transitions: object[]) =>
  ({
    layers: [{ kind: 'ellipse', id: 'knob', name: 'Knob' }],
    states: [
      { id: 'a', name: 'Off' },
      { id: 'b', name: 'On' },
    ],
    transitions,
  }) as unknown as Piece;

describe('a piece that stands still', () => {
  it.each([
    [
      'has one state',
      { ...piece(), states: [{ id: 'a', name: 'Off' }] } as unknown as Piece,
      'Stands still: the piece has one state',
      /second state/,
    ],
    ['leads nowhere', piece(), 'Stands still: nothing leads on from Off', /Add a transition/],
    [
      'waits for somebody',
      piece({ from: 'a', cue: 'tap', cue_layer: 'knob' }, { from: 'a', cue: 'over' }),
      'Stands still: Off waits for a tap on Knob, or the pointer',
      /alone/,
    ],
  ])('says that it %s, and what to do', (_, stands, why, remedy) => {
    expect(standingStill(stands, run('a'))).toBe(why);
    expect(howToPlay(stands, run('a'))).toMatch(remedy);
  });

  it('says what it waits for while something goes round', () =>
    expect(standingStill(piece({ from: 'a', cue: 'tap' }), run('a', 300))).toBe('Goes round: Off waits for a tap'));

  it('says nothing where something plays', () => expect(standingStill(piece(), run('a', 300))).toBeNull());
});
