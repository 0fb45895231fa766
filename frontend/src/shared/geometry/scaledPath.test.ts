import svgpath from 'svgpath';
import { expect, it } from 'vitest';
import { scaledPath } from './scaledPath';

const numbers = (d: string) => [...d.matchAll(/-?[\d.]+(?:e-?\d+)?/g)].map(Number);

it.each(['M4 20L18 34L44 6', 'M4,20l18-34h5V6z', 'M0 0C1 2 3 4 5 6S7 8 9 10Q1 2 3 4T8 9Z', 'M.5.5-1e1.25'])(
  '%s is stretched as a library does',
  (d) => {
    expect(numbers(scaledPath(d, 2, 3)).map((n) => Math.round(n * 1e3))).toEqual(
      numbers(svgpath(d).scale(2, 3).toString()).map((n) => Math.round(n * 1e3)),
    );
  },
);

it.each(['M10 20A9 9 0 0 1 30 40', 'M10 20a9 5 30 1 0 8 6', 'M0 0a5 5 0 015 5'])('%s, an arc', (d) => {
  // The axes may be named the other way round: compared as curves.
  const curves = (text: string) => numbers(svgpath(text).abs().unarc().toString());
  const [own, theirs] = [curves(scaledPath(d, 2, 3)), curves(svgpath(d).unarc().scale(2, 3).toString())];
  const ends = (all: number[]) => all.slice(-2).map((n) => Math.round(n * 100));
  expect(ends(own)).toEqual(ends(theirs));
  const radii = /A(\S+) (\S+) (\S+)/i.exec(scaledPath(d, 2, 3)) ?? [];
  const [rx, ry] = [Number(radii[1]), Number(radii[2])];
  const before = numbers(svgpath(d).abs().toString().split('A')[1] ?? '');
  expect(rx * ry).toBeCloseTo((before[0] ?? 0) * (before[1] ?? 0) * 6, 6);
});
