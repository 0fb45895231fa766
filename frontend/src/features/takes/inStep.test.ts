import { describe, expect, it } from 'vitest';
import type { Run } from '../../api/contract';
import { inStep } from './inStep';

const loop = (lead_in_ms: number, loop_ms: number | null, total_ms: number) =>
  ({ lead_in_ms, loop_ms, total_ms }) as Run;

describe('runs in step', () => {
  it.each([
    ['moment', 1500, loop(0, 1000, 1000), loop(0, 2000, 2000), 1500],
    ['phase', 250, loop(0, 1000, 1000), loop(0, 2000, 2000), 500],
    ['phase', 300, loop(200, 400, 600), loop(100, 800, 900), 300],
    ['phase', 100, loop(200, 400, 600), loop(100, 800, 900), 50],
    ['phase', 300, loop(0, null, 600), loop(0, 800, 800), 400],
  ] as const)('by %s at %d ms', (step, moment, run, other, expected) => {
    expect(inStep(moment, moment, run, other, step)).toBe(expected);
  });
});
