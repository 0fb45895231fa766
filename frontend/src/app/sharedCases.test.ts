/* What the core and the page both have to know: the page agrees with the cases that the core worked out. */
import Matrix from '@thednp/dommatrix';
import { describe, expect, it } from 'vitest';
import type { Form, Layer, Pose, Segment } from '../api/contract';
import cases from '../api/generated/shared-cases.json';
import { momentOf } from '../features/player/clock';
import { segmentAt } from '../features/player/playing';
import { valueOf } from '../features/player/values';
import { chainTo, cornersOf } from '../shared/geometry/matrix';
import { boundsOf, readPath } from '../shared/geometry/path';

/** Browsers have it by themselves, and take a point for one of the plane. */
class DOMMatrix extends Matrix {
  transformPoint = ({ x = 0, y = 0 }: DOMPointInit) => super.transformPoint({ x, y, z: 0, w: 1 });
}
Object.assign(globalThis, { DOMMatrix });

const near = (found: readonly number[], wanted: readonly number[], digits: number) => {
  expect(found.length).toBe(wanted.length);
  found.forEach((value, i) => expect(value).toBeCloseTo(wanted[i] as number, digits));
};
const numbersOf = (text: string) => (text.match(/-?[\d.]+(e-?\d+)?/g) ?? []).map(Number);

describe('shared with the core', () => {
  it.each(cases.corners.map((one, i) => [i, one] as const))('corners of layers in groups, case %d', (_, one) => {
    const layers = one.layers as Layer[];
    for (const [id, corners] of Object.entries(one.corners))
      near(cornersOf(chainTo(layers, id), one.pose as unknown as Pose).flat(), corners.flat(), 4);
  });

  it.each(cases.bounds)('bounds of $path', ({ path, bounds }) => near(boundsOf(readPath(path)), bounds, 2));

  it.each(cases.moments.map((one, i) => [i, one] as const))('moments of a run, case %d', (_, { run, times }) => {
    for (const [t, within, from, to] of times as [number, number, string, string][]) {
      const moment = momentOf(t, run);
      expect(moment).toBeCloseTo(within, 9);
      const segment = run.segments[segmentAt(run.segments as Segment[], moment)];
      expect([segment?.from ?? run.final_state, segment?.to ?? run.final_state], `at ${t} ms`).toEqual([from, to]);
    }
  });

  it.each(cases.outlines.map((one, i) => [i, one] as const))('outlines on their way, case %d', (_, one) => {
    one.shares.forEach((share, i) => {
      const text = valueOf(one.form as Form, Float64Array.of(share), 1) as string;
      near(numbersOf(text), numbersOf(one.texts[i] as string), 2);
      expect(text.replace(/[^A-Z]/g, '')).toBe(one.form.commands);
    });
  });
});
