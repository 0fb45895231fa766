import { describe, expect, it } from 'vitest';
import type { Transition, TransitionReading } from '../../api/contract';
import { waysRun } from './waysRun';

const way = (id: string, from: string, to: string) => ({ id, from, to, cue: 'tap' }) as Transition;
const takes = (length_ms: number) => ({ length_ms }) as TransitionReading;

describe('transitions one after the other', () => {
  const run = waysRun([way('on', 'a', 'b'), way('off', 'b', 'a')], { on: takes(400), off: takes(0) }, []);

  it('go from rest to rest, each by its own leg, without a gap', () => {
    expect(run.segments.map(({ kind, from, to }) => [kind, from, to])).toEqual([
      ['hold', 'a', 'a'],
      ['travel', 'a', 'b'],
      ['hold', 'b', 'b'],
      ['hold', 'b', 'b'],
      ['travel', 'b', 'a'],
      ['hold', 'a', 'a'],
    ]);
    run.segments.slice(1).forEach((segment, i) => expect(segment.start_ms).toBe(run.segments[i]?.end_ms));
    expect(run.legs).toEqual(['', 'on', '', '', 'off', '']);
    expect(run.transitions).toEqual(['on', 'on', 'on', 'off', 'off', 'off']);
  });

  it('go round and round', () => {
    expect([run.loop_ms, run.total_ms, run.final_state]).toEqual([1600, 1600, 'a']);
  });
});
