import { describe, expect, it } from 'vitest';
import type { Piece, Segment } from '../../api/contract';
import { keysPressed } from './pulls';
import { beginsState } from './model';
import type { Run, Seam, Transition, TransitionReading } from '../../api/contract';
import { cutOff, deadTimes, marksOf, tooSoon } from './findings';
import { barsOf, endsBeside, lineOf, rowsOf, rulerStep, snapped, speedsOf } from './model';
import { cuesOnWay, farthest, sectionsOnWay } from './scroll';
import { stretchesOf, voicesOf } from './voices';
import { known } from '../../shared/known';

const run = {
  total_ms: 700,
  segments: [
    { kind: 'hold', from: 'a', to: 'a', start_ms: 0, end_ms: 100 },
    { kind: 'travel', from: 'a', to: 'b', start_ms: 100, end_ms: 500 },
    { kind: 'hold', from: 'b', to: 'b', start_ms: 500, end_ms: 700 },
  ],
  transitions: ['ab', 'ab', 'ba'],
  legs: ['ab', 'ab', 'ba'],
} as unknown as Run;
const readings = {
  ab: {
    moves: [
      ['box', 'x', 0, 150],
      ['box', 'y', 50, 150],
      ['top', 'x', 200, 400],
    ],
  },
} as unknown as Record<string, TransitionReading>;
const bars = barsOf(run, readings);
const track = {
  layer: 'box',
  property: 'x',
  columns: 1,
  form: null,
  times: Float32Array.of(0, 50, 150),
  values: Float32Array.of(10, 30, 40),
};
const poses = { a: { box: { x: 10, fill: '#fff' } }, b: { box: { x: 40, fill: '#000' } } };

describe('the run sheet', () => {
  it('has a bar for every move, where it happens in the run', () => {
    expect(bars.map((bar) => [bar.row, bar.start_ms, bar.end_ms])).toEqual([
      ['box/x', 100, 250],
      ['box/y', 150, 250],
      ['top/x', 300, 500],
    ]);
    expect(rowsOf(bars, ['top', 'box'])).toEqual(['top/x', 'box/x', 'box/y']);
    expect(deadTimes(bars, run, [])).toEqual([[250, 300]]);
    expect(deadTimes(bars, run, [{ id: run.transitions[1], style: 'cross-fade' }] as unknown as Transition[])).toEqual(
      [],
    );
  });

  it.each([
    [263, 'ends', 250],
    [280, 'ends', 280],
    [263.4, '10 ms', 260],
    [263, 60, 267],
    [263, 24, 250],
    [263, 25, 280],
  ] as const)('%d ms snaps to %s at %d', (t, snap, expected) => {
    expect(snapped(t, snap, endsBeside(bars, [known(bars[2]).key]), 20)).toBe(expected);
  });

  it('draws numbers through holds and moves, with their speed', () => {
    const line = known(lineOf('box/x', run, new Map([['ab', { tracks: [track], fade: null }]]), poses));
    expect(line.points).toEqual([
      [0, 10],
      [0, 10],
      [100, 10],
      [100, 10],
      [150, 30],
      [250, 40],
      [500, 40],
      [500, 40],
      [700, 40],
    ]);
    expect([line.low, line.high, line.fastest]).toEqual([10, 40, 400]);
    expect(
      speedsOf([
        [0, 0],
        [0, 5],
        [100, 10],
        [200, 30],
        [400, 30],
      ]),
    ).toEqual([
      [0, 50],
      [50, 50],
      [150, 200],
      [200, 200],
      [200, 0],
      [300, 0],
      [400, 0],
    ]);
    const leftEarly = {
      ...run,
      segments: [
        known(run.segments[0]),
        { ...known(run.segments[1]), end_ms: 200 },
        { ...known(run.segments[2]), start_ms: 200 },
      ],
    };
    const short = known(lineOf('box/x', leftEarly, new Map([['ab', { tracks: [track], fade: null }]]), poses));
    expect(short.points).toEqual([
      [0, 10],
      [0, 10],
      [100, 10],
      [100, 10],
      [150, 30],
      [200, 35],
      [200, 40],
      [700, 40],
    ]);
    expect(lineOf('box/fill', run, new Map(), poses)).toBeNull();
  });

  it('marks what is cut off, what should begin too soon, and a seam that jumps', () => {
    const early = { ...known(bars[0]), key: 'next', start_ms: 200, end_ms: 400 };
    expect(cutOff([...bars, early])).toMatchObject([{ from_ms: 200, to_ms: 250, bar: bars[0] }]);
    expect(cutOff([...bars, { ...early, start_ms: 250 }])).toEqual([]);
    const back = (delay_ms: number) =>
      [
        { id: 'ab', lanes: [{ layer: 'top', delay_ms, anchor: { layer: 'box', edge: 'before-end' } }] },
      ] as unknown as Transition[];
    expect(tooSoon(bars, back(150))).toEqual([]);
    expect(tooSoon(bars, back(180))).toMatchObject([
      { says: 'should begin 30 ms before its transition does', bar: { row: 'top/x' } },
    ]);
    expect(known(marksOf(bars, run, { open: false, px: 0, colour: 0, speed: 900 } as Seam, []).at(-1)).says).toBe(
      'the speed breaks at the seam by 900 px/s',
    );
    expect(known(marksOf(bars, run, { open: true, px: 0, colour: 0.2 } as Seam, []).at(-1)).says).toBe(
      'the seam jumps: 0.20 in colour',
    );
    expect(marksOf(bars, run, { open: true, px: 4 } as Seam, []).map(({ kind, from_ms }) => [kind, from_ms])).toEqual([
      ['dead', 250],
      ['seam', 700],
    ]);
  });

  it('names a state where it is reached, once', () => {
    const segment = (kind: 'hold' | 'travel', from: string) => ({ kind, from, to: from, start_ms: 0, end_ms: 1 });
    const [rest, way] = [(id: string) => segment('hold', id), (id: string) => segment('travel', id)];
    const named = (...segments: Segment[]) => segments.map((_, i) => beginsState(segments, i));
    expect(named(rest('a'), way('a'), rest('b'), way('b'))).toEqual([true, false, true, false]);
    expect(named(way('a'), way('b'), rest('c'))).toEqual([true, true, true]);
  });

  it.each([
    [['a', 'b'], 'a', false, ['b', 'a']],
    [['a', 'b'], 'c', false, ['c']],
    [['a', 'b'], 'c', true, ['a', 'b', 'c']],
    [['a', 'b'], 'a', true, ['b']],
  ])('of %j a press on %s, with Shift %s, leaves %j chosen', (chosen, key, also, expected) => {
    expect(keysPressed(chosen, key, also)).toEqual(expected);
  });

  it('has figures on its ruler that do not touch', () => {
    for (const total of [90, 700, 9560, 600_000])
      expect((rulerStep(total, 800) / total) * 800).toBeGreaterThanOrEqual(62);
  });
});

it('a free copy goes through its lead-in once, and through its loop until the axis ends', () => {
  const segments = [
    { kind: 'travel', from: 'a', to: 'b', start_ms: 100, end_ms: 200 },
    { kind: 'travel', from: 'b', to: 'c', start_ms: 300, end_ms: 400 },
  ];
  const run = { lead_in_ms: 300, loop_ms: 150, total_ms: 450, plays: null, segments, voices: [] } as unknown as Run;
  const starts = (voice: { begins_ms: number; run: Run }, total: number) =>
    stretchesOf(voice, total).map(({ start_ms, end_ms }) => [start_ms, end_ms]);
  expect(starts({ begins_ms: 50, run }, 700)).toEqual([
    [150, 250],
    [350, 450],
    [500, 600],
    [650, 700],
  ]);
  expect(starts({ begins_ms: 50, run: { ...run, plays: 2 } }, 700)).toHaveLength(3);
  expect(starts({ begins_ms: 50, run: { ...run, loop_ms: null } }, 700)).toHaveLength(2);
  expect(starts({ begins_ms: 800, run }, 700)).toEqual([]);
  const voices = [{ placement: 'c/d', begins_ms: 20, run, tapes: {}, poses: {} }];
  const outer = { placement: 'c', begins_ms: 50, run: { ...run, voices }, tapes: {}, poses: {} };
  const inside = voicesOf({ voices: [outer] });
  expect(inside.map(({ placement, begins_ms }) => [placement, begins_ms])).toEqual([
    ['c', 50],
    ['c/d', 70],
  ]);
});

it('the way scrolled has its sections, and where on the way down they come into view or go out of it', () => {
  const sections = [100, 50, 400].map((height, n) => ({ id: `s${n}`, name: `S${n}`, height }));
  const cued = (id: string, cue: string, cue_layer: string, cue_share?: number) => ({ id, cue, cue_layer, cue_share });
  const transitions = [
    cued('first', 'in-view', 's0'),
    cued('second', 'in-view', 's1'),
    cued('gone', 'out-of-view', 's0', 0.2),
    // Of 400 px no more than the screen's 200 are ever seen.
    cued('never', 'in-view', 's2', 0.6),
    cued('half', 'in-view', 's2', 0.25),
    cued('other', 'tap', 's1'),
  ];
  const story = { height: 200, sections, transitions } as unknown as Piece;
  expect(farthest(story)).toBe(350);
  expect(sectionsOnWay(story).map(({ from_px, to_px }) => [from_px, to_px])).toEqual([
    [0, 100],
    [100, 150],
    [150, 350],
  ]);
  expect(cuesOnWay(story).map(({ transition, at_px }) => [transition, at_px])).toEqual([
    ['gone', 80],
    ['half', 50],
  ]);
  expect(farthest({ ...story, height: 900 })).toBe(0);
});
