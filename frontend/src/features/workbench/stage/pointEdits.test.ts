import { describe, expect, it } from 'vitest';
import type { Point } from '../../../shared/geometry/matrix';
import type { Knot, Subpath } from '../../../shared/geometry/path';
import { bent, moved, without, type Part } from './pointEdits';

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
    expect(without(path, 0, 1)?.[0]?.knots).toEqual([corner(0, 0), corner(10, 10)]);
    expect(without([{ knots: [corner(0, 0), bend], closed: false }], 0, 1)).toBeNull();
  });
});
