import { describe, expect, it } from 'vitest';
import type { KeptRehearsal, Piece } from '../../api/contract';
import type { Heard, Reason, Tables } from '../../runtime/data';
import { changeOf, whyNot } from './words';

const piece = {
  name: 'Lamp',
  layers: [{ kind: 'ellipse', id: 'knob', name: 'Knob' }],
  states: [
    { id: 'a', name: 'Off' },
    { id: 'b', name: 'On' },
  ],
} as unknown as Piece;
const tables = {
  states: piece.states,
  transitions: [
    { id: 'ab', from: 'a', to: 'b', cue: 'tap', layer: 'knob' },
    { id: 'ba', from: 'b', to: 'a', cue: 'key', key: ' ' },
  ],
  double_tap_ms: 250,
  voices: [],
} as unknown as Tables;
const around = { ...tables, states: [], voices: [{ copy: 'lamp', seen_in: [], tables }] };
const heard = (reason: Reason, state = 'a', cue = 'tap'): Heard => ({
  event: { t_ms: 0, cue, layer: 'knob' },
  at_ms: 0,
  state,
  transition: null,
  reason,
  rest_ms: 120.4,
  copy: null,
});

describe('why nothing heeded it', () => {
  it.each<[Reason, string, string, string]>([
    ['not-awaited', 'b', 'tap', 'nothing waits for it in On'],
    ['elsewhere', 'a', 'tap', 'Off waits for it on Knob'],
    ['other-key', 'b', 'key', 'On waits for the key Space'],
    ['resting', 'a', 'tap', 'Off rests 120 ms longer first'],
    ['unseen', 'a', 'tap', 'it is not seen now'],
    ['gone', 'a', 'tap', 'there is no such layer any more'],
    ['second-tap', 'a', 'tap', 'waits 250 ms for a second tap'],
  ])('%s', (reason, state, cue, words) => {
    expect(whyNot(piece, tables, heard(reason, state, cue))).toBe(words);
    expect(whyNot(piece, around, { ...heard(reason, state, cue), copy: 'lamp' })).toBe(words);
  });
});

describe('what has become of a kept rehearsal', () => {
  const kept = (changes: KeptRehearsal['changes'], fault: string | null = null) =>
    ({ changes, fault, revision: 3 }) as unknown as KeptRehearsal;

  it('is nothing where it is the same', () => expect(changeOf(kept([]))).toBe(''));
  it('is said in the order of time', () =>
    expect(
      changeOf(
        kept([
          { kind: 'state-gone', what: 'Half', by_ms: 0 },
          { kind: 'later', what: 'On', by_ms: 40 },
        ]),
      ),
    ).toBe('Since revision 3: the state Half is gone; On is reached 40 ms later.'));
  it('is the fault where it cannot be played', () => expect(changeOf(kept([], 'No.'))).toBe('No.'));
});
