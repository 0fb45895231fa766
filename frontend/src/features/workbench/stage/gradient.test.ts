import { describe, expect, it } from 'vitest';
import type { Gradient } from '../../../api/contract';
import { alongOf, handlesOf, pulled, withStop, type Handle } from './gradient';
import { known } from '../../../shared/known';

const stops = [
  { at: 0, colour: '#000' },
  { at: 0.5, colour: '#888' },
  { at: 1, colour: '#fff' },
] as const;
const KINDS: Gradient[] = [
  { kind: 'linear', angle: 90, stops: [...stops] },
  { kind: 'linear', angle: 30, stops: [...stops] },
  { kind: 'radial', centre_x: 0.25, centre_y: 0.5, radius: 0.5, stops: [...stops] },
  { kind: 'radial', radius: 0.3, stretch: 2, angle: 40, focus_x: 0.4, focus_y: -0.2, stops: [...stops] },
  { kind: 'conic', angle: 45, centre_x: 0.5, centre_y: 0.75, stops: [...stops] },
];
const SIZE: [number, number] = [80, 40];
const place = (gradient: Gradient, handle: Handle) =>
  known(handlesOf(gradient, SIZE).find(([key]) => key === handle))[1];

describe('handles of gradients', () => {
  it('lie along the line that CSS draws', () => {
    const rounded = (handle: number, gradient = known(KINDS[0])) => place(gradient, handle).map(Math.round);
    expect([rounded(0), rounded(2), rounded(1, KINDS[2])]).toEqual([
      [0, 20],
      [80, 20],
      [40, 20],
    ]);
  });

  it.each(KINDS)('pulled to where they are change nothing: $kind', (gradient) => {
    for (const [handle, at] of handlesOf(gradient, SIZE)) {
      if (gradient.kind === 'conic' && handle === 2) continue; // all round is where it began
      const same = pulled(gradient, SIZE, handle, at, false) as unknown as Record<string, number>;
      for (const [name, value] of Object.entries(gradient))
        if (typeof value === 'number') expect(same[name]).toBeCloseTo(value, 2);
      (same as unknown as Gradient).stops.forEach((stop, i) => expect(stop.at).toBeCloseTo(known(stops[i]).at, 2));
    }
  });

  it('take a stop more where somebody asks for it, of the colour there', () => {
    const asked: number[] = [];
    const colourAt = (_: unknown, at: number) => (asked.push(at), 'red');
    const place = alongOf(known(KINDS[0]), SIZE, [20, 33]);
    expect(withStop(known(KINDS[0]), place, colourAt).stops.map(({ at, colour }) => `${colour} ${at}`)).toEqual([
      '#000 0',
      'red 0.25',
      '#888 0.5',
      '#fff 1',
    ]);
    expect(withStop(known(KINDS[4]), 1.4, colourAt).stops.at(-1)).toEqual({ at: 1, colour: 'red' });
    expect(asked).toEqual([0.25, 1]);
  });

  it('turn, widen, move, and keep stops in their order', () => {
    expect(pulled(known(KINDS[0]), SIZE, 'reach', [40, -100], false)).toMatchObject({ angle: 0 });
    expect(pulled(known(KINDS[0]), SIZE, 'reach', [100, 25], true)).toMatchObject({ angle: 90 });
    expect(pulled(known(KINDS[2]), SIZE, 'centre', [8, 8], false)).toMatchObject({ centre_x: 0.1, centre_y: 0.2 });
    // A circle becomes an ellipse by its grip across, and is turned by its reach from then on.
    const ellipse = pulled(known(KINDS[2]), SIZE, 'across', [20, 20 + 1.12 * 0.25 * 40], false);
    expect(ellipse).toMatchObject({ radius: 0.25, stretch: 2 });
    expect(pulled(ellipse, SIZE, 'reach', [20, 20 + 1.12 * 0.75 * 40], true)).toMatchObject({ stretch: 3, angle: 90 });
    expect(pulled(known(KINDS[3]), SIZE, 'focus', [40, 20], false)).toMatchObject({ focus_x: 0, focus_y: 0 });
    expect(pulled(known(KINDS[0]), SIZE, 1, [-50, 0], false).stops[1].at).toBe(0);
    expect(pulled(known(KINDS[0]), SIZE, 0, [70, 0], false).stops[0].at).toBe(0.5);
  });
});
