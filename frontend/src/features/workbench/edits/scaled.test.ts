import { expect, it } from 'vitest';
import type { Layer } from '../../../api/contract';
import { scaled } from './scaled';

const PATH = { kind: 'path', id: 'p', name: 'P', x: 4, y: 6, width: 20, height: 10, view_width: 20, view_height: 10 };

it('makes all lengths of a drawing longer, and nothing else', () => {
  const path = { ...PATH, path: 'M0 0L20 10', stroke: '#000', stroke_dash: [3, 1], rotation: 30, opacity: 0.5 };
  const shadows = [{ x: 1, y: 2, blur: 6, spread: 0, colour: '#000', inset: false }];
  const box = { kind: 'rectangle', id: 'b', name: 'B', x: 0, y: 0, width: 8, height: 8, radius_top_left: 2, shadows };
  const group = { kind: 'group', id: 'g', name: 'G', x: 10, y: 0, width: 40, height: 20, layers: [path, box] };
  const half = scaled(group as unknown as Layer, 0.5) as unknown as typeof group;
  expect(half).toMatchObject({ x: 5, width: 20, height: 10 });
  expect(half.layers[0]).toEqual({
    ...path,
    ...{ x: 2, y: 3, width: 10, height: 5, stroke_dash: [1.5, 0.5] },
    // A width that nobody has written is one px, and half of it after that.
    stroke_width: 0.5,
  });
  expect(half.layers[1]).toMatchObject({
    width: 4,
    radius_top_left: 1,
    shadows: [{ x: 0.5, y: 1, blur: 3, spread: 0 }],
  });
  expect(scaled(half as unknown as Layer, 2)).toMatchObject({ x: 10, layers: [{ ...path, stroke_width: 1 }, box] });
});
