import { describe, expect, it } from 'vitest';
import type { Transition } from '../../api/contract';
import type { Bar } from './model';
import { followersIn, placesOf, roomOf, type Pull } from './places';
import { around, shifted, zoomed } from './seen';

const bar = (layer: string, start_ms: number, end_ms: number, property = 'x'): Bar => ({
  key: `0 ${layer}/${property}`,
  row: `${layer}/${property}`,
  layer,
  property,
  transition: 'way',
  start_ms,
  end_ms,
  base_ms: 100,
});
const way = (lanes: Transition['lanes']): Transition => ({
  id: 'way',
  from: 'a',
  to: 'b',
  timing: { kind: 'curve', duration_ms: 200, easing: 'ease' },
  lanes,
});
const pull = (part: Pull['part'], by_ms: number, edge_ms = 0): Pull => ({ part, by_ms, alone: false, edge_ms });
const [a, b, c] = [bar('a', 100, 300), bar('b', 150, 350), bar('c', 300, 500)];

describe('pulled bars', () => {
  it('keep their distances, and are trimmed no further than to the other end', () => {
    expect([...placesOf([a, b], pull('move', 40)).values()]).toEqual([
      [140, 340],
      [190, 390],
    ]);
    expect([...placesOf([a], pull('start', 900)).values()]).toEqual([[299, 300]]);
    expect([...placesOf([a], pull('end', -900)).values()]).toEqual([[100, 101]]);
  });

  it('are stretched as one from the end that stays', () => {
    expect([...placesOf([a, c], pull('end', 400, 500)).values()]).toEqual([
      [100, 500],
      [500, 900],
    ]);
    expect([...placesOf([a, c], pull('start', 200, 100)).values()]).toEqual([
      [300, 400],
      [400, 500],
    ]);
  });

  it('take along the rest of their layer, and what is linked to them, one after another', () => {
    const ways = [
      way([
        { layer: 'b', delay_ms: 0, anchor: { layer: 'a', edge: 'with' } },
        { layer: 'c', delay_ms: 0, anchor: { layer: 'b', edge: 'after' } },
        { layer: 'd', property: 'y', delay_ms: 0 },
      ]),
    ];
    const turn = bar('a', 100, 300, 'rotation');
    const free = bar('d', 100, 300, 'y');
    const bars = [a, turn, b, c, free];
    const moved = followersIn(ways, bars)(placesOf([a], pull('move', 40)), false);
    expect(Object.fromEntries(moved)).toEqual({
      [a.key]: [140, 340],
      [turn.key]: [140, 340],
      [b.key]: [190, 390],
      [c.key]: [340, 540],
    });
    // Longer at its end: what starts with it stays, and what comes after that too.
    const longer = followersIn(ways, bars)(placesOf([a], pull('end', 40)), true);
    expect(longer.get(b.key)).toEqual([150, 350]);
    expect(longer.has(turn.key)).toBe(false);
  });

  it('go no further than what holds them lets them', () => {
    expect(roomOf([way([{ layer: 'a', delay_ms: 30 }])], [a])).toEqual({
      least: -30,
      most: Infinity,
      by: 'its transition',
    });
    expect(roomOf([way([{ layer: 'b', delay_ms: 20 }])], [b]).by).toBe('its stagger');
    const early = way([{ layer: 'a', delay_ms: 10, anchor: { layer: 'b', edge: 'before-end' } }]);
    expect(roomOf([early], [a])).toMatchObject({ most: 10, by: 'its link' });
  });
});

describe('the part of the run that is shown', () => {
  it('comes nearer around what is pointed at, and stays inside of the run', () => {
    expect(zoomed({ from: 0, to: 1000 }, 1000, 2, 250)).toEqual({ from: 125, to: 625 });
    expect(zoomed({ from: 0, to: 1000 }, 1000, 2, 0)).toEqual({ from: 0, to: 500 });
    expect(zoomed({ from: 400, to: 500 }, 1000, 0.01, 450)).toEqual({ from: 0, to: 1000 });
    expect(zoomed({ from: 400, to: 430 }, 1000, 9, 415)).toEqual({ from: 405, to: 425 });
    expect(shifted({ from: 400, to: 500 }, 1000, 800)).toEqual({ from: 900, to: 1000 });
    expect(around(300, 400, 1000)).toEqual({ from: 292, to: 408 });
  });
});
