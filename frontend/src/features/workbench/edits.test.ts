import { applyPatch } from 'fast-json-patch';
import { describe, expect, it } from 'vitest';
import type { Piece } from '../../api/answers';
import * as edits from './edits';

const curve = { kind: 'curve' as const, duration_ms: 200, easing: 'ease' };
const piece: Piece = {
  format: 1,
  id: 'p',
  name: 'P',
  width: 100,
  height: 100,
  layers: [
    {
      kind: 'group',
      id: 'g',
      name: 'G',
      x: 0,
      y: 0,
      width: 9,
      height: 9,
      layers: [{ kind: 'rectangle', id: 'r', name: 'R', x: 1, y: 2, width: 3, height: 4 }],
    },
    { kind: 'ellipse', id: 'e', name: 'E', x: 5, y: 5, width: 5, height: 5, opacity: 0.5 },
  ],
  states: [
    { id: 'a', name: 'A' },
    { id: 'b', name: 'B', changes: { r: { x: 9 }, e: { opacity: 1 } } },
    { id: 'c', name: 'C', changes: {} },
  ],
  start: 'a',
  transitions: [
    { id: 'ab', from: 'a', to: 'b', cue: 'hold', hold_ms: 120, style: 'tween', timing: curve, lanes: [{ layer: 'r', delay_ms: 10 }] },
    { id: 'bc', from: 'b', to: 'c', cue: 'tap', hold_ms: 0, style: 'tween', timing: { ...curve, duration_ms: 300 } },
  ],
};

const after = (edit: edits.Edit, before = piece): Piece => applyPatch(structuredClone(before), structuredClone(edit.patch) as never, true).newDocument;

describe('values', () => {
  it('go into one state, and only where they differ from the base', () => {
    expect(after(edits.setValues(piece, 'b', 'r', { x: 20, y: 3 }, 'state')).states[1]!.changes!.r).toEqual({ x: 20, y: 3 });
    expect(after(edits.setValues(piece, 'a', 'r', { x: 7 }, 'state')).states[0]!.changes).toEqual({ r: { x: 7 } });
    expect(after(edits.setValues(piece, 'b', 'e', { opacity: 0.5 }, 'state')).states[1]!.changes).toEqual({ r: { x: 9 } });
    expect(edits.setValues(piece, 'c', 'e', { rotation: 0 }, 'state').patch).toEqual([]);
  });

  it('go into the base, wherever the layer lies', () => {
    const changed = after(edits.setValues(piece, 'b', 'r', { x: 20 }, 'base'));
    expect(changed.layers![0]).toMatchObject({ layers: [{ id: 'r', x: 20 }] });
    expect(changed.states).toEqual(piece.states);
  });

  it('can be cleared', () => {
    expect(after(edits.clearValue(piece, 'b', 'e', 'opacity')).states[1]!.changes).toEqual({ r: { x: 9 } });
    expect(edits.clearValue(piece, 'c', 'e', 'opacity').patch).toEqual([]);
  });

  it('have a name that says what, of whom and where', () => {
    expect(edits.setValues(piece, 'b', 'r', { x: 20, y: 3 }, 'state').label).toBe('x, y of R in B');
    expect(edits.setValues(piece, 'b', 'r', { x: 20 }, 'base').label).toBe('x of R, all states');
  });
});

describe('states', () => {
  it('come after another, look like it and take over where it led', () => {
    const edit = edits.addState(piece, 'a', 'New one');
    const changed = after(edit);
    expect(changed.states.map((s) => s.id)).toEqual(['a', 'new-one', 'b', 'c']);
    expect(changed.transitions!.map((t) => [t.from, t.to, t.hold_ms])).toEqual([['new-one', 'b', 0], ['b', 'c', 0], ['a', 'new-one', 120]]);
  });

  it.each(['a', 'b', 'c'])('deleted just after having been added after %s leave the run as it was', (id) => {
    const added = edits.addState(piece, id, 'New');
    const removed = after(edits.removeState(after(added), added.id), after(added));
    const ways = (p: Piece) => p.transitions!.map((t) => [t.from, t.to, t.cue, t.hold_ms, t.timing]).sort();
    expect(removed.states).toEqual(piece.states);
    expect(ways(removed)).toEqual(ways(piece));
  });

  it('deleted where the piece starts pass the start on', () => {
    const changed = after(edits.removeState(piece, 'a'));
    expect([changed.start, changed.transitions!.map((t) => t.id)]).toEqual(['b', ['bc']]);
    expect(after(edits.removeState(piece, 'b')).transitions).toMatchObject([{ id: 'ab', to: 'c', hold_ms: 120, timing: { duration_ms: 300 } }]);
  });

  it('move, as far as there is room', () => {
    expect(after(edits.moveState(piece, 'a', 1)).states.map((s) => s.id)).toEqual(['b', 'a', 'c']);
    expect(edits.moveState(piece, 'a', -1).patch).toEqual([]);
  });
});

describe('layers', () => {
  it('are duplicated with all inside them and all their differences', () => {
    const edit = edits.duplicateLayer(piece, 'g');
    const changed = after(edit);
    expect(edit.id).toBe('g-2');
    expect(changed.layers!.map((l) => l.id)).toEqual(['g', 'g-2', 'e']);
    expect(changed.layers![1]).toMatchObject({ layers: [{ id: 'r-2' }] });
    expect(changed.states[1]!.changes!['r-2']).toEqual({ x: 9 });
  });

  it('are deleted with all that states and transitions say of them', () => {
    const changed = after(edits.removeLayer(piece, 'g'));
    expect(changed.layers!.map((l) => l.id)).toEqual(['e']);
    expect(changed.states[1]!.changes).toEqual({ e: { opacity: 1 } });
    expect(changed.transitions![0]!.lanes).toEqual([]);
  });

  it.each(['rectangle', 'ellipse', 'path', 'text', 'group'] as const)('a %s is added on top, in the middle', (kind) => {
    const { id, patch, label } = edits.addLayer(piece, kind);
    const layer = after({ label, patch }).layers!.at(-1)!;
    expect(layer.id).toBe(id);
    expect(layer.x + layer.width / 2).toBeCloseTo(50, 0);
  });
});

describe('lanes', () => {
  it('that say nothing of their own are dropped', () => {
    expect(after(edits.setLane(piece, 'ab', 'r', { delay_ms: 0 })).transitions![0]!.lanes).toEqual([]);
    expect(after(edits.setLane(piece, 'ab', 'e', { timing: curve })).transitions![0]!.lanes).toHaveLength(2);
  });
});
