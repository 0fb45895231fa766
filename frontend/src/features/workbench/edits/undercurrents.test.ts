import { describe, expect, it } from 'vitest';
import type { Piece, Pose, TransitionReading, Value } from '../../../api/contract';
import { known } from '../../../shared/known';
import { CannotBe } from './cannotBe';
import { patched } from './patched';
import * as edits from './undercurrents';
import type { Key, Undercurrent } from './undercurrents';

const layer = (id: string) => ({ kind: 'ellipse', id, name: id.toUpperCase(), x: 0, y: 0, width: 9, height: 9 });
const piece = (rest: object = {}) =>
  ({ layers: [layer('a'), layer('b'), layer('c')], states: [{ id: 's', name: 'S' }], ...rest }) as unknown as Piece;
const look = { x: 4, opacity: 1, rotation: 30, fill: '#c03a1e', scale_x: 1 };
const pose = { a: look, b: { ...look, x: 8 }, c: look } as unknown as Pose;
const conic = (angle: number, colours = ['#fff', '#000']) => ({
  kind: 'conic',
  angle,
  stops: colours.map((colour, at) => ({ at: at / (colours.length - 1), colour })),
});
const made = (ids: readonly string[], property: string, of = piece()) =>
  patched(of, edits.addUndercurrent(of, pose, ids, property).patch);
const first = (of: Piece): Undercurrent => known(of.undercurrents?.[0]);
const keys = (...at: number[]) => at.map((at_ms) => ({ at_ms, value: at_ms / 10, easing: 'linear' })) as Key[];

describe('what goes round', () => {
  it.each<[string, Value, unknown, number]>([
    ['rotation', 30, 390, 1200],
    ['x', 4, 16, 600],
    ['opacity', 1, 0.5, 600],
    ['scale_x', 1, 1.1, 600],
    ['fill', '#c03a1e', '#ffffff', 600],
    ['fill', conic(20) as unknown as Value, { ...conic(380) }, 1200],
  ])('%s begins with keys that are seen to move', (name, value, to, at_ms) => {
    const found = edits.firstKeys(name, value);
    expect(found.map((key) => [key.at_ms, key.value])).toEqual([
      [0, value],
      [at_ms, to],
    ]);
  });

  it('lets several layers come one after the other, as one round for as long as they have the same keys', () => {
    const own = first(made(['a', 'c'], 'opacity'));
    expect(edits.roundsOf(own)).toMatchObject([{ property: 'opacity', layers: ['a', 'c'], offsets: [0, 300] }]);
    expect(edits.turnOf(known(edits.roundsOf(own)[0]))).toBe(300);
    expect(edits.roundsOf(first(made(['a', 'b'], 'x')))).toHaveLength(2);
  });

  it('gives no property to two', () => {
    const of = made(['a'], 'opacity');
    const names = (ids: string[]) => edits.freeToGoRound(of, ids).map(({ name }) => name);
    expect(names(['a'])).not.toContain('opacity');
    expect(names(['a', 'b'])).not.toContain('opacity');
    expect(names(['b'])).toContain('opacity');
  });

  it('keeps its keys at the same shares of another period, or says why not', () => {
    const of = made(['a', 'c'], 'opacity');
    const after = first(patched(of, edits.setPeriod(of, first(of), 600).patch));
    expect(after.courses.map(({ keys, offset_ms }) => [keys.map(({ at_ms }) => at_ms), offset_ms])).toEqual([
      [[0, 300], 0],
      [[0, 300], 150],
    ]);
    expect(() => edits.setPeriod(of, first(of), 0.5)).toThrow(CannotBe);
  });

  it('comes from a transition, there and back', () => {
    const reading = {
      length_ms: 400,
      moves: [
        ['a', 'x', 100, 400],
        ['a', 'stroke_cap', 0, 400],
      ],
    } as unknown as TransitionReading;
    const poses = { s: pose, t: { ...pose, a: { ...look, x: 40 } } } as unknown as Record<string, Pose>;
    const way = { from: 's', to: 't', name: 'S and T', easing: 'ease-out' };
    const own = first(patched(piece(), edits.undercurrentFrom(piece(), reading, poses, way).patch));
    expect(own.period_ms).toBe(800);
    expect(own.courses).toHaveLength(1);
    expect(own.courses[0].keys.map(({ at_ms, value }) => [at_ms, value])).toEqual([
      [0, 4],
      [100, 4],
      [400, 40],
    ]);
    expect(() => edits.undercurrentFrom(piece(), { ...reading, moves: [] }, poses, way)).toThrow(/S and T/);
  });

  it('is gone with its last property', () => {
    const of = made(['a', 'c'], 'opacity');
    const [round] = edits.roundsOf(first(of));
    expect(patched(of, edits.removeRound(of, first(of), known(round)).patch).undercurrents).toEqual([]);
  });
});

describe('keys', () => {
  it.each([
    [1, 900, [0, 399, 400]],
    [1, -5, [0, 1, 400]],
    [2, 9999, [0, 200, 500]],
    [0, 50, [0, 200, 400]],
  ])('%i pulled to %i stays between those beside it', (k, to, at) =>
    expect(edits.movedKey(keys(0, 200, 400), k, to, 500).map(({ at_ms }) => at_ms)).toEqual(at),
  );

  it('are added in order, never two at one moment', () => {
    expect(edits.withKey(keys(0, 200), 100, 7)).toMatchObject({ at: 1, keys: [{}, { at_ms: 100, value: 7 }, {}] });
    expect(edits.withKey(keys(0, 200), 300, 7)?.at).toBe(2);
    expect(edits.withKey(keys(0, 200), 200, 7)).toBeNull();
  });

  it('follow one that gets a stop more, and keep their angles', () => {
    const two = [conic(0), conic(360)].map((value, k) => ({
      at_ms: k * 9,
      value,
      easing: 'linear',
    })) as unknown as Key[];
    const after = edits.alikeKeys(two, 0, conic(5, ['#fff', '#888', '#000']) as unknown as Value);
    expect(after.map(({ value }) => value)).toEqual([
      conic(5, ['#fff', '#888', '#000']),
      conic(360, ['#fff', '#888', '#000']),
    ]);
    expect(edits.alikeKeys(two, 0, conic(5) as unknown as Value)[1]).toBe(two[1]);
  });

  it('say whether the end is the beginning', () => {
    expect(edits.closes(keys(0, 200), 500)).toBe(true);
    expect(edits.closes(keys(0, 500), 500)).toBe(false);
  });
});
