import { describe, expect, it } from 'vitest';
import type { Medium, Piece } from '../../../api/contract';
import { known } from '../../../shared/known';
import { CannotBe } from './cannotBe';
import * as edits from './media';
import { patched } from './patched';

const piece = () =>
  ({
    width: 100,
    height: 80,
    layers: [],
    states: [
      { id: 'a', name: 'A' },
      { id: 'b', name: 'B' },
      { id: 'c', name: 'C' },
    ],
    transitions: [
      { id: 't', from: 'a', to: 'b', timing: { kind: 'curve', duration_ms: 300 } },
      { id: 'u', from: 'b', to: 'c', timing: { kind: 'curve', duration_ms: 200 } },
      { id: 'c', from: 'b', to: 'a', style: 'cut', timing: { kind: 'curve', duration_ms: 300 } },
    ],
  }) as unknown as Piece;
const values = { source: 'data:one', length_ms: 900, playhead: 400, width: 40, height: 40 } as unknown as Medium;
const withMedium = () => {
  const { id, patch } = edits.addMedium(piece(), values, 'Bell');
  return { id, piece: patched(piece(), patch) };
};

describe('a medium', () => {
  it('plays over and over at first, and stands at its fullest moment elsewhere', () => {
    const { id, piece: now } = withMedium();
    expect(edits.mediumOf(now, id)).toMatchObject({ name: 'Bell', playhead: 400 });
    expect(edits.playedBy(now, id)).toMatchObject({ name: 'Bell plays', period_ms: 900 });
    expect(edits.playRound(now, id).patch).toEqual([]);
    const still = patched(now, edits.playByStates(now, id).patch);
    expect(edits.playedBy(still, id)).toBeUndefined();
    expect(edits.playedBy(patched(still, edits.playRound(still, id).patch), id)).toBeDefined();
  });

  it('plays once on the way to a state, from its beginning to its end', () => {
    const { id, piece: now } = withMedium();
    const once = patched(now, edits.playOnTheWay(now, id, 'b').patch);
    expect(edits.playedBy(once, id)).toBeUndefined();
    expect(edits.mediumOf(once, id).playhead).toBe(0);
    expect(known(once.states[1]).changes).toEqual({ [id]: { playhead: 900 } });
    expect(known(once.transitions?.[0]).lanes).toEqual([
      { layer: id, property: 'playhead', timing: { kind: 'curve', duration_ms: 900, easing: 'linear' } },
    ]);
    expect(known(once.transitions?.[1]).lanes).toEqual([
      { layer: id, property: 'playhead', style: 'cut', delay_ms: 200 },
    ]);
    expect(once.transitions?.[2]).not.toHaveProperty('lanes');
    const backwards = patched(now, edits.playOnTheWay(now, id, 'b', 1, true).patch);
    expect(edits.mediumOf(backwards, id).playhead).toBe(900);
    expect(known(backwards.states[1]).changes).toEqual({ [id]: { playhead: 0 } });
    const shorter = patched(backwards, edits.replaceMedium(backwards, id, { source: 'x', length_ms: 400 }).patch);
    expect(edits.mediumOf(shorter, id).playhead).toBe(400);
    // Only a cut leads to the other one.
    expect(() => edits.playOnTheWay(now, id, 'a')).toThrow(CannotBe);
  });

  it('is replaced by another, which plays whole where this one did', () => {
    const { id, piece: now } = withMedium();
    const other = { source: 'data:other', length_ms: 500 };
    const round = patched(now, edits.replaceMedium(now, id, other).patch);
    expect(edits.mediumOf(round, id)).toMatchObject(other);
    expect(edits.playedBy(round, id)).toMatchObject({
      period_ms: 500,
      courses: [{ keys: [{}, { at_ms: 500, value: 500 }] }],
    });
    const once = patched(now, edits.playOnTheWay(now, id, 'b').patch);
    const after = patched(once, edits.replaceMedium(once, id, other).patch);
    expect(known(after.states[1]).changes).toEqual({ [id]: { playhead: 500 } });
    expect(after.transitions?.[0]).toMatchObject({ lanes: [{ timing: { duration_ms: 500 } }] });
    const thrice = patched(now, edits.playOnTheWay(now, id, 'b', 4).patch);
    const easing = 'linear(0, 1 25%, 0 25%, 1 50%, 0 50%, 1 75%, 0 75%, 1)';
    expect(thrice.transitions?.[0]).toMatchObject({ lanes: [{ timing: { duration_ms: 3600, easing } }] });
    const again = patched(thrice, edits.replaceMedium(thrice, id, other).patch);
    expect(again.transitions?.[0]).toMatchObject({ lanes: [{ timing: { duration_ms: 2000, easing } }] });
  });
});
