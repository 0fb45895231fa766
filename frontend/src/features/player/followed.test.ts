import { describe, expect, it } from 'vitest';
import { pace, wishOf, type Followed } from './followed';

const at = (t: number, now: number, rate = 0): Followed => ({ t, now, rate });

describe('a film that follows a playhead', () => {
  it.each<[string, Followed | null, number, number, object]>([
    ['stands at first', null, 0, 0, { kind: 'stand' }],
    ['plays as fast as the playhead', at(100, 1000), 116, 1016, { kind: 'play', rate: 1 }],
    ['half as fast', at(100, 1000), 108, 1016, { kind: 'play', rate: 0.5 }],
    ['stands where it stands', at(100, 1000), 100, 1016, { kind: 'stand' }],
    ['and where it runs back', at(100, 1000), 84, 1016, { kind: 'stand' }],
    ['and where it leaps', at(100, 1000), 900, 1016, { kind: 'stand' }],
    ['and goes on after a silence', at(100, 1000), 1100, 2000, { kind: 'stand' }],
    ['keeps its pace through uneven frames', at(100, 1000, 1), 133, 1020, { kind: 'play', rate: 1.15 }],
  ])('%s', (_, before, t, now, wish) => expect(wishOf(before, t, now)).toEqual(wish));

  it.each([
    [1, 0, 1],
    [1, 5, 1],
    [1, 60, 1.2],
    [1, -60, 0.8],
    [0.5, 9000, 0.75],
  ])('at %d, %d ms behind, it plays at %d', (rate, behind, played) => expect(pace(rate, behind)).toBe(played));
});
