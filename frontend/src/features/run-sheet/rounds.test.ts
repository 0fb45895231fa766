import { describe, expect, it } from 'vitest';
import type { Run } from '../../api/contract';
import type { Course, Undercurrent } from '../workbench';
import { keysOf, runningIn, turnsOf } from './rounds';

const hold = (from: string, start_ms: number, end_ms: number) => ({ kind: 'hold', from, to: from, start_ms, end_ms });
const run = {
  total_ms: 1000,
  segments: [
    hold('a', 0, 300),
    { kind: 'travel', from: 'a', to: 'b', start_ms: 300, end_ms: 500 },
    hold('b', 500, 800),
    { kind: 'travel', from: 'b', to: 'a', start_ms: 800, end_ms: 1000 },
  ],
} as unknown as Run;
const course = (offset_ms = 0) => ({ layer: 'l', property: 'x', offset_ms, keys: [] }) as unknown as Course;
const own = (rest: object) => ({ id: 'u', name: 'U', period_ms: 400, courses: [], ...rest }) as unknown as Undercurrent;

describe('periods along a run', () => {
  it.each([
    ['from the start', {}, 0, [0, 400, 800]],
    ['with a phase', { phase_ms: 100 }, 0, [0, 300, 700]],
    ['later by an offset', { phase_ms: 100 }, 150, [0, 50, 450, 850]],
  ])('%s', (_, rest, offset, starts) => {
    const turns = turnsOf(own(rest), course(offset), run);
    expect(turns.map(({ start_ms }) => start_ms)).toEqual(starts);
    expect(turns.at(-1)?.end_ms).toBe(1000);
  });

  it('with the keys inside of them', () => {
    const keys = { ...course(50), keys: [{ at_ms: 0 }, { at_ms: 100 }, { at_ms: 400 }] } as unknown as Course;
    expect(keysOf(own({}), keys, turnsOf(own({}), keys, run))).toEqual([150, 550, 950]);
  });

  it('only where it runs', () => {
    expect(runningIn(own({ states: ['b'] }), run)).toEqual([{ start_ms: 500, end_ms: 800 }]);
    expect(runningIn(own({ states: ['a', 'b'] }), run)).toEqual([{ start_ms: 0, end_ms: 1000 }]);
    expect(turnsOf(own({ states: ['b'] }), course(), run)).toEqual([{ start_ms: 500, end_ms: 800 }]);
  });
});
