import { describe, expect, it } from 'vitest';
import type { Point } from '../../../shared/geometry/matrix';
import type { Knot, Subpath } from '../../../shared/geometry/path';
import { bent, bentAll, closedOrOpened, moved, movedBy, reversed, withoutAll, type Part } from './pointEdits';

const corner = (x: number, y: number): Knot => ({ at: [x, y], into: null, out: null });
const bend: Knot = { at: [10, 0], into: [8, -1], out: [14, 2] };
const path: Subpath[] = [{ knots: [corner(0, 0), bend, corner(10, 10)], closed: true }];
const after = (part: Part, to: Point, alone = false) => moved(path, [0, 1, part], to, alone)[0]?.knots[1];

describe('points', () => {
  it.each<[Part, Point, boolean, Knot]>([
    ['at', [11, 3], false, { at: [11, 3], into: [9, 2], out: [15, 5] }],
    ['out', [12, 4], false, { at: [10, 0], into: [8, -4], out: [12, 4] }],
    ['out', [12, 4], true, { at: [10, 0], into: [8, -1], out: [12, 4] }],
    ['into', [9, 1], false, { at: [10, 0], into: [9, 1], out: [11, -1] }],
  ])('%s pulled to %j, alone %s', (part, to, alone, expected) => {
    expect(after(part, to, alone)).toEqual(expected);
    // What was given stays as it was.
    expect(path[0]?.knots[1]).toBe(bend);
  });

  it('bend along the way from their neighbours, and straighten again', () => {
    const [subpath] = path;
    const bentOnce = bent(subpath as Subpath, 2);
    expect(bentOnce).toEqual({ at: [10, 10], into: [10 + 10 / 6, 10], out: [10 - 10 / 6, 10] });
    expect(bent({ knots: [bend, corner(0, 0)], closed: false }, 0)).toEqual(corner(10, 0));
  });

  it('are removed, but never so many that no outline is left', () => {
    expect(withoutAll(path, [[0, 1]])?.[0]?.knots).toEqual([corner(0, 0), corner(10, 10)]);
    const line = { knots: [corner(0, 0), bend], closed: false };
    expect(withoutAll([line], [[0, 1]])).toBeNull();
    // An outline with too few is left out as long as there is another.
    expect(
      withoutAll(
        [line, ...path],
        [
          [0, 1],
          [1, 0],
        ],
      ),
    ).toEqual([{ knots: [bend, corner(10, 10)], closed: true }]);
  });

  it('move, bend and straighten together', () => {
    const both = [
      [0, 0],
      [0, 2],
    ] as const;
    expect(movedBy(path, both, [1, -2])[0]?.knots.map(({ at }) => at)).toEqual([
      [1, -2],
      [10, 0],
      [11, 8],
    ]);
    const bentBoth = bentAll(path, both);
    expect(bentBoth[0]?.knots.map(({ into }) => into !== null)).toEqual([true, true, true]);
    expect(
      bentAll(bentBoth, [
        [0, 0],
        [0, 1],
        [0, 2],
      ])[0]?.knots.every(({ into, out }) => !into && !out),
    ).toBe(true);
  });

  it('open behind one of them, and close again, the same way round', () => {
    const [opened] = closedOrOpened(path, 0, 0);
    expect(opened).toEqual({ knots: [{ ...bend, into: null }, corner(10, 10), corner(0, 0)], closed: false });
    expect(closedOrOpened([opened as Subpath], 0, 0)[0]?.closed).toBe(true);
    expect(reversed(reversed(path[0]?.knots ?? []))).toEqual(path[0]?.knots);
  });
});
