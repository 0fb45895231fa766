import { describe, expect, it } from 'vitest';
import { boundsOf, readPath, splitAfter, writePath } from './path';
import { known } from '../known';

/** path data, how it is written again, its bounds */
const CASES: [string, string, [number, number, number, number]][] = [
  ['M0 32L32 0L64 32', 'M0 32L32 0L64 32', [0, 0, 64, 32]],
  ['m10 10h20v20h-20z', 'M10 10L30 10L30 30L10 30Z', [10, 10, 30, 30]],
  ['M0 0C0 40 40 40 40 0', 'M0 0C0 40 40 40 40 0', [0, 0, 40, 30]],
  ['M0 0Q30 60 60 0', 'M0 0C20 40 40 40 60 0', [0, 0, 60, 30]],
  ['M0 0L10 0M5 5L10 5L5 0Z', 'M0 0L10 0M5 5L10 5L5 0Z', [0, 0, 10, 5]],
  ['M10 0C15.523 0 20 4.477 20 10C20 4 10 4 10 0Z', 'M10 0C15.523 0 20 4.477 20 10C20 4 10 4 10 0Z', [10, 0, 20, 10]],
];

describe('outlines', () => {
  it.each(CASES)('%s', (d, written, bounds) => {
    const read = readPath(d);
    expect(writePath(read)).toBe(written);
    expect(writePath(readPath(written))).toBe(written);
    boundsOf(read).forEach((value, i) => expect(value).toBeCloseTo(known(bounds[i]), 4));
  });

  it('with arcs keep their place', () => {
    const [left, top, right, bottom] = boundsOf(readPath('M0 10a10 10 0 1 1 20 0a10 10 0 1 1-20 0z'));
    expect([left, top, right, bottom].map((v) => Math.round(v * 10) / 10)).toEqual([0, 0, 20, 20]);
  });

  it.each(CASES)('stay as they are with a point more: %s', (d, _, bounds) => {
    const [first, ...rest] = readPath(d);
    const split = splitAfter(known(first), 0);
    expect(split.knots).toHaveLength(known(first).knots.length + 1);
    boundsOf([split, ...rest]).forEach((value, i) => expect(value).toBeCloseTo(known(bounds[i]), 4));
  });
});
