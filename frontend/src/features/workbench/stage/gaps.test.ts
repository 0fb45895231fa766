import { describe, expect, it } from 'vitest';
import { equalGaps } from './gaps';

const box = (left: number, right: number, top = 0, bottom = 10) => ({ left, right, top, bottom });
const ROW = [box(0, 20), box(30, 50), box(100, 120)];
const OWN = box(200, 220);

describe('equal gaps', () => {
  it.each([
    { what: 'after a pair, as far as these lie apart', row: ROW.slice(0, 2), by: -138, goal: -140 },
    { what: 'before a pair', row: ROW.slice(1), by: -238, goal: -240 },
    { what: 'in the middle between two', row: ROW.slice(1), by: -133, goal: -135 },
  ])('$what', ({ row, by, goal }) => {
    const met = equalGaps(row, OWN, 0, [by, 0], 5);
    expect(met?.by).toBe(goal);
    const [first, second] = met?.gaps.map(({ from, to }) => to - from) ?? [];
    expect(first).toBe(second);
  });

  it.each([
    { what: 'too far from any', row: ROW, by: -60, down: 0 },
    { what: 'not beside the row', row: ROW.slice(0, 2), by: -140, down: 40 },
    { what: 'with one neighbour only', row: ROW.slice(0, 1), by: -140, down: 0 },
    { what: 'between neighbours that touch', row: [box(0, 20), box(20, 40)], by: -160, down: 0 },
    { what: 'a ground is no neighbour', row: [box(-10, 400, -5, 20), box(30, 50)], by: -140, down: 0 },
  ])('none: $what', ({ row, by, down }) => {
    expect(equalGaps(row, OWN, 0, [by, down], 5)).toBeNull();
  });

  it('are as well found downwards', () => {
    const column = [box(0, 10, 0, 20), box(0, 10, 30, 50)];
    expect(equalGaps(column, box(0, 10, 200, 220), 1, [0, -142], 5)).toMatchObject({
      by: -140,
      gaps: [{ axis: 1 }, {}],
    });
  });
});
