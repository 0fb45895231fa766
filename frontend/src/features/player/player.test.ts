import { describe, expect, it } from 'vitest';
import type { Form, PackedTape, Run } from '../../api/contract';
import { Clock, momentOf } from './clock';
import { arcPath, arcsOf } from './ring';
import { segmentAt } from './playing';
import { readTrack, updateTape } from './tape';
import { known } from '../../shared/known';

const pack = (tracks: [string, string, number, number][], numbers: number[], form: Form | null = null) => ({
  fade: null,
  moves: tracks.map(([layer, property]): [string, string, number, number] => [layer, property, 0, 0]),
  tape: {
    tracks: tracks.map((track): PackedTape['tracks'][number] => [...track, form]),
    data: btoa(String.fromCharCode(...new Uint8Array(new Float32Array(numbers).buffer))),
  },
});

describe('tape', () => {
  const way = pack(
    [
      ['a', 'x', 4, 1],
      ['a', 'fill', 2, 4],
    ],
    [0, 100, 100, 200, 5, 15, 40, 60, 0, 200, 0, 0, 0, 0, 100, 50, 20, 1],
  );
  const tape = updateTape(new Map(), { way }, ['way']);
  const read = (track: number, t: number) => {
    const out = new Float64Array(4);
    readTrack(known(known(tape.get('way')).tracks[track]), t, out);
    return [...out];
  };

  it.each([
    [-5, 5],
    [0, 5],
    [50, 10],
    [99.9999, 15],
    [100, 40],
    [150, 50],
    [200, 60],
    [999, 60],
  ])('at %d ms shows %d', (t, value) => expect(read(0, t)[0]).toBeCloseTo(value, 2));

  it('reads all numbers of a colour', () => expect(read(1, 100)).toEqual([50, 25, 10, 0.5]));

  it('keeps what did not change, and drops what is gone', () => {
    const back = pack([['b', 'y', 1, 1]], [0, 7]);
    const both = updateTape(tape, { back }, ['way', 'back']);
    expect(both.get('way')).toBe(tape.get('way'));
    expect([...updateTape(both, {}, ['back']).keys()]).toEqual(['back']);
    expect(updateTape(tape, {}, ['way'])).toBe(tape);
    const partly = known(
      updateTape(tape, { way: { ...pack([['a', 'x', 1, 1]], [0, 9]), moves: way.moves } }, ['way']).get('way'),
    ).tracks;
    expect(partly.map((t) => t.property)).toEqual(['x', 'fill']);
    expect([known(partly[0]).values[0], partly[1]]).toEqual([9, known(tape.get('way')).tracks[1]]);
  });
});

const run: Run = {
  lead_in_ms: 100,
  loop_ms: 400,
  total_ms: 500,
  final_state: 'b',
  transitions: ['ab', 'bc', 'bc', 'cb'],
  legs: ['ab', 'bc', 'bc', 'cb'],
  plays: null,
  common_loop_ms: 400,
  common_from_ms: 0,
  voices: [],
  undercurrents: [],
  segments: [
    { kind: 'travel', from: 'a', to: 'b', start_ms: 0, end_ms: 100 },
    { kind: 'hold', from: 'b', to: 'b', start_ms: 100, end_ms: 200 },
    { kind: 'travel', from: 'b', to: 'c', start_ms: 200, end_ms: 500 },
    { kind: 'travel', from: 'c', to: 'b', start_ms: 500, end_ms: 500 },
  ],
};

describe('playing', () => {
  it.each([
    [0, 0],
    [99.9, 0],
    [100, 1],
    [200, 2],
    [499, 2],
    [500, 4],
  ])('at %d ms is in segment %d', (t, index) => expect(segmentAt(run.segments, t)).toBe(index));

  it('shows the last of several cuts at one moment', () => {
    const cut = (start_ms: number, end_ms = start_ms) => ({
      kind: 'travel' as const,
      from: 'a',
      to: 'b',
      start_ms,
      end_ms,
    });
    expect(segmentAt([cut(0), cut(0), cut(0, 10)], 0)).toBe(2);
    expect(segmentAt([], 0)).toBe(-1);
  });
});

describe('clock', () => {
  it.each([
    [50, 50],
    [500, 100],
    [950, 150],
  ])('%d ms played of a loop is its moment %d', (t, moment) => expect(momentOf(t, run)).toBe(moment));

  it.each([
    [450, 450],
    [501, 500],
    [1650, 500],
    [1750, 50],
  ])('%d ms played of a run that ends is its moment %d', (t, moment) =>
    expect(momentOf(t, { ...run, loop_ms: null })).toBe(moment),
  );
});

describe('ring', () => {
  it('shows the loop alone, without what takes no time', () =>
    expect(arcsOf(run)).toEqual([
      { kind: 'hold', from: 0, to: 0.25 },
      { kind: 'travel', from: 0.25, to: 1 },
    ]));

  it('shows all of a run that ends', () =>
    expect(arcsOf({ ...run, loop_ms: null })[0]).toEqual({ kind: 'travel', from: 0, to: 0.2 }));

  it('draws a whole round as almost one', () =>
    expect(arcPath(0, 1, 10, 0)).toMatch(/^M0.00 -10.00A10 10 0 1 1 -0.00 -10.00$/));
});

describe('a part played alone', () => {
  const run = { lead_in_ms: 0, loop_ms: 1000, total_ms: 1000, segments: [], plays: null } as unknown as Run;

  it('goes round in itself, and lets go of it again', () => {
    const clock = new Clock();
    clock.setRun(run);
    clock.seek(700);
    clock.setPart([200, 500]);
    expect(clock.moment).toBe(200);
    for (const [t, moment] of [
      [350, 350],
      [500, 200],
      [1150, 250],
      [100, 400],
    ] as const) {
      clock.seek(t);
      expect(clock.moment).toBe(moment);
    }
    clock.setPart(null);
    expect(clock.moment).toBe(400);
    clock.step(3);
    expect([clock.moment, clock.playing]).toEqual([450, false]);
  });

  it.each([
    [
      'loop',
      null,
      [
        [400, 400],
        [1300, 300],
      ],
    ],
    [
      'once',
      null,
      [
        [400, 400],
        [1300, 1000],
      ],
    ],
    [
      'back',
      null,
      [
        [400, 400],
        [1300, 700],
        [2100, 100],
      ],
    ],
    [
      'once',
      [200, 500],
      [
        [100, 200],
        [300, 300],
        [700, 500],
      ],
    ],
    [
      'back',
      [200, 500],
      [
        [300, 300],
        [600, 400],
        [900, 300],
      ],
    ],
  ] as const)('looked at as %s, in %s', (look, part, moments) => {
    const clock = new Clock();
    clock.setRun(run);
    clock.setPart(part);
    clock.setLook(look);
    for (const [t, moment] of moments) {
      clock.seek(t);
      expect(clock.moment).toBe(moment);
    }
  });

  it('begins anew where it was played to its end once', () => {
    const clock = new Clock();
    clock.setRun(run);
    clock.setLook('once');
    clock.seek(1000);
    clock.setPlaying(true);
    expect(clock.moment).toBe(0);
  });
});
