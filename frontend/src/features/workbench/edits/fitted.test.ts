import { describe, expect, it } from 'vitest';
import type { Piece, Pose } from '../../../api/contract';
import { known } from '../../../shared/known';
import { propertiesOf, walk } from '../tree';
import { fitGroup } from './fitted';

const box = { kind: 'rectangle', y: 12, width: 10, height: 8 };
const group = { kind: 'group', id: 'g', name: 'G', x: 20, y: 30, width: 100, height: 50 };
const layers = [
  {
    ...group,
    layers: [
      { ...box, id: 'a', name: 'A', x: -7 },
      { ...box, id: 'b', name: 'B', x: 60 },
    ],
  },
];
const turned = { g: { rotation: 40, scale_x: 2, skew_x: 10, x: 5 }, a: { x: 33 } };
const piece = (changes: object = turned, more: object = {}): Piece =>
  ({
    ...{ format: 1, id: 'p', name: 'P', width: 100, height: 100, start: 's', layers },
    states: [
      { id: 's', name: 'S' },
      { id: 't', name: 'T', changes },
    ],
    ...more,
  }) as Piece;

const poseOf = (from: Piece, state: number): Pose =>
  Object.fromEntries(
    walk(from.layers ?? []).map(({ layer }) => [
      layer.id,
      {
        ...Object.fromEntries(propertiesOf(layer).map(({ name, default: unsaid }) => [name, unsaid])),
        ...layer,
        ...known(from.states[state]).changes?.[layer.id],
      },
    ]),
  ) as unknown as Pose;

describe('a group fitted to its content', () => {
  it.each([
    ['a size of its own', piece({ g: { width: 10 } }), /T has a size/],
    [
      'an undercurrent',
      piece(
        {},
        {
          undercurrents: [{ id: 'u', name: 'Sway', period_ms: 9, courses: [{ layer: 'a', property: 'x', keys: [] }] }],
        },
      ),
      /Sway sets/,
    ],
  ])('refuses %s', (_, before, said) => {
    expect(() => fitGroup(before, 'g', poseOf(before, 0))).toThrow(said);
  });
});
