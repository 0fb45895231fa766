import { describe, expect, it } from 'vitest';
import type { Piece } from '../../../api/contract';
import { toPath } from './outlined';
import { patched } from './patched';

const box = { kind: 'rectangle', id: 'box', name: 'Box', x: 5, y: 5, width: 40, height: 20, fill: '#1f7a70' };
const piece = (layer: object, changes: object = {}, rest: object = {}): Piece =>
  ({
    ...{ format: 1, id: 'p', name: 'P', width: 100, height: 100, start: 'a', layers: [layer] },
    states: [
      { id: 'a', name: 'A' },
      { id: 'b', name: 'B', changes: { box: changes } },
    ],
    ...rest,
  }) as Piece;
const turned = (before: Piece) => patched(before, toPath(before, 'box').patch);

describe('a shape as an outline', () => {
  it('keeps its place and paint, and loses what a path has not', () => {
    const after = turned(piece({ ...box, radius_top_left: 4 }, { x: 9, radius_top_left: 8 }));
    expect(after.layers?.[0]).toEqual({
      ...box,
      ...{ kind: 'path', path: 'M4 0H40V20H0V4A4 4 0 0 1 4 0Z', view_width: 40, view_height: 20 },
    });
    // The other radius is another outline.
    expect(after.states[1]?.changes?.box).toEqual({ x: 9, path: 'M8 0H40V20H0V8A8 8 0 0 1 8 0Z' });
  });

  it('is the same outline where only the size differs, since a path is stretched', () => {
    expect(turned(piece(box, { width: 80 })).states[1]?.changes?.box).toEqual({ width: 80 });
  });

  it('runs along the middle of a stroke', () => {
    const [layer] = turned(piece({ ...box, stroke: '#000', stroke_width: 4 })).layers ?? [];
    expect(layer).toMatchObject({ path: 'M2 2H38V18H2V2Z' });
    const [round] = turned(piece({ ...box, kind: 'ellipse', stroke: '#000', stroke_align: 'centre' })).layers ?? [];
    expect(round).toMatchObject({ path: 'M20 0A20 10 0 0 1 20 20 20 10 0 0 1 20 0Z' });
  });

  it('goes on in lanes of what it still has', () => {
    const lanes = ['x', 'stroke_align'].map((property) => ({ layer: 'box', property, delay_ms: 0 }));
    const way = { id: 'w', from: 'a', to: 'b', timing: { kind: 'curve', duration_ms: 9, easing: 'ease' }, lanes };
    expect(turned(piece(box, {}, { transitions: [way] })).transitions?.[0]?.lanes).toEqual([lanes[0]]);
  });

  it('is refused where something else speaks of its corners', () => {
    const option = { id: 'o', name: 'Soft', changes: { box: { radius_top_left: 9 } } };
    const traits = [{ id: 't', name: 'Kind', options: [option] }];
    expect(() => toPath(piece(box, {}, { traits }), 'box')).toThrow('Kind sets the corners or the stroke of Box');
    expect(() => toPath(piece({ ...box, kind: 'text' }), 'box')).toThrow('no rectangle or ellipse');
  });
});
