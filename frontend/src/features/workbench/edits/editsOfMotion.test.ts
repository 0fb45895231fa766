import { describe, expect, it } from 'vitest';
import type { Piece, Run } from '../../../api/contract';
import * as edits from '.';
import { known } from '../../../shared/known';
import { curve, piece, after } from './example';

describe('groups', () => {
  it('with a mask are not taken apart, nor is a mask taken away from what it cuts', () => {
    const masked = {
      ...piece,
      layers: [
        {
          ...known(known(piece.layers)[0]),
          layers: [{ kind: 'rectangle', id: 'r', name: 'R', x: 1, y: 2, width: 3, height: 4, mask: true }],
        },
        { kind: 'ellipse', id: 'm', name: 'M', x: 0, y: 0, width: 4, height: 4, mask: true },
        known(known(piece.layers)[1]),
      ],
    } as unknown as Piece;
    expect(() => edits.ungroup(masked, 'g')).toThrow('R cuts what lies above it');
    expect(() => edits.groupLayers(masked, ['m'], pose)).toThrow('M cuts what lies above it');
  });

  const pose = {
    g: { x: 0, y: 0, width: 9, height: 9 },
    e: { x: 5, y: 5, width: 5, height: 5 },
    r: { x: 1, y: 2, width: 3, height: 4 },
  };

  it('hold what was there, where it was, and give it back', () => {
    const before = after(edits.setValues(piece, 'b', 'e', { x: 8 }, 'state'));
    const edit = edits.groupLayers(before, ['e', 'g'], pose);
    const grouped = after(edit, before);
    expect(grouped.layers).toMatchObject([
      { id: 'group', x: 0, y: 0, width: 10, height: 10, layers: [{ id: 'g' }, { id: 'e', x: 5 }] },
    ]);
    expect(after(edits.ungroup(grouped, 'group'), grouped)).toEqual(before);
  });

  it('hand on where states moved them', () => {
    const moved = after(edits.setValues(piece, 'c', 'g', { x: 20 }, 'state'));
    const changed = after(edits.ungroup(moved, 'g'), moved);
    expect(changed.states.map((s) => s.changes?.r)).toEqual([undefined, { x: 9 }, { x: 21 }]);
  });

  it('that do more than hold are not taken apart, and layers of two groups not put into one', () => {
    const turned = after(edits.setValues(piece, 'c', 'g', { rotation: 20 }, 'state'));
    expect(() => edits.ungroup(turned, 'g')).toThrow('G sets rotation');
    expect(() => edits.ungroup(piece, 'e')).toThrow('no group');
    expect(() => edits.groupLayers(piece, ['e', 'r'], pose)).toThrow('different groups');
  });
});

describe('layers', () => {
  it('are duplicated with all inside them and all their differences', () => {
    const edit = edits.duplicateLayer(piece, 'g');
    const changed = after(edit);
    expect(edit.id).toBe('g-2');
    expect(known(changed.layers).map((l) => l.id)).toEqual(['g', 'g-2', 'e']);
    expect(known(changed.layers)[1]).toMatchObject({ layers: [{ id: 'r-2' }] });
    expect(known(known(changed.states[1]).changes)['r-2']).toEqual({ x: 9 });
  });

  it('are deleted with all that states and transitions say of them', () => {
    const changed = after(edits.removeLayers(piece, ['g', 'r']));
    expect(known(changed.layers).map((l) => l.id)).toEqual(['e']);
    expect(known(changed.states[1]).changes).toEqual({ e: { opacity: 1 } });
    expect(known(known(changed.transitions)[0]).lanes).toEqual([]);
    expect(edits.removeLayers(piece, ['g']).touches).toBe('what B said of it and its own timing in A → B');
    expect(edits.removeLayers(after(edits.clearValue(piece, 'b', 'e', 'opacity')), ['e']).touches).toBe('');
  });

  it.each(['rectangle', 'ellipse', 'path', 'text', 'group'] as const)('a %s is added on top, in the middle', (kind) => {
    const { id, patch, label } = edits.addLayer(piece, kind);
    const layer = known(known(after({ label, patch }).layers).at(-1));
    expect(layer.id).toBe(id);
    expect(layer.x + layer.width / 2).toBeCloseTo(50, 0);
  });
});

describe('values of a state', () => {
  it('are those that it says itself, and go back to the base', () => {
    const own = after(edits.setValues(piece, 'b', 'r', { x: 7 }, 'state'));
    const cells = edits.ownValues(own, 'b', ['r']);
    expect(cells).toContainEqual({ state: 'b', layer: 'r', property: 'x', value: null });
    expect(edits.ownValues(after(edits.setCells(own, cells, ''), own), 'b', ['r'])).toEqual([]);
  });
});

describe('lanes', () => {
  it('that say nothing of their own are dropped', () => {
    expect(known(known(after(edits.setLane(piece, 'ab', 'r', { delay_ms: 0 })).transitions)[0]).lanes).toEqual([]);
    expect(known(known(after(edits.setLane(piece, 'ab', 'e', { timing: curve })).transitions)[0]).lanes).toHaveLength(
      2,
    );
  });

  it('that of a property begins with what its layer has, may begin at 0 beside it, and goes with it again', () => {
    const slow = { ...curve, duration_ms: 900 };
    const layered = after(edits.setLane(piece, 'ab', 'r', { delay_ms: 40, timing: slow }));
    const own = (delay_ms: number) =>
      known(known(known(after(edits.setLane(layered, 'ab', 'r', { delay_ms }, 'x'), layered).transitions)[0]).lanes);
    for (const delay_ms of [0, 80])
      expect(own(delay_ms).at(-1)).toEqual({ layer: 'r', property: 'x', delay_ms, timing: slow });
    const apart = { ...layered, transitions: [{ ...known(known(layered.transitions)[0]), lanes: own(0) }] } as Piece;
    expect(known(known(after(edits.removeLane(apart, 'ab', 'r', 'x'), apart).transitions)[0]).lanes).toEqual(
      known(known(layered.transitions)[0]).lanes,
    );
    const cut = after(
      edits.setLane(
        {
          ...piece,
          transitions: [{ ...known(known(piece.transitions)[0]), lanes: [{ layer: 'r', delay_ms: 10, style: 'cut' }] }],
        },
        'ab',
        'r',
        { delay_ms: 0 },
      ),
    );
    expect(known(known(cut.transitions)[0]).lanes).toHaveLength(1);
  });
});

describe('a loop is closed', () => {
  const ended = { loop_ms: null, final_state: 'b', segments: [], transitions: [] } as unknown as Run;
  const round = {
    loop_ms: 500,
    final_state: '',
    segments: [{ from: 'a' }, { from: 'b' }],
    transitions: ['ab', 'bc'],
  } as unknown as Run;

  it.each(['tween', 'cross-fade'] as const)('by a %s from the end, or in the way back that there is', (how) => {
    expect(known(after(edits.closeLoop(piece, ended, how)).transitions).at(-1)).toMatchObject({
      from: 'b',
      to: 'a',
      style: how,
    });
    expect(known(after(edits.closeLoop(piece, round, how)).transitions)[1]).toMatchObject({
      id: 'bc',
      style: how,
      timing: { duration_ms: 400 },
    });
  });

  it('by beginning as it ends', () => {
    const changed = after(edits.closeLoop(piece, ended, 'same'));
    expect(changed.states[0].changes).toEqual(known(changed.states[1]).changes);
    expect(known(changed.transitions).at(-1)).toMatchObject({ from: 'b', to: 'a', style: 'cut' });
  });
});

describe('many transitions at once', () => {
  it('keep what they were not told', () => {
    const changed = after(
      edits.setTransitions(piece, ['ab', 'bc'], 'Timing', (own) => ({
        timing: edits.changedLike(own.timing, curve, { ...curve, easing: 'ease-in' }),
      })),
    );
    expect(changed.transitions).toMatchObject([
      { timing: { duration_ms: 200, easing: 'ease-in' } },
      { timing: { duration_ms: 300, easing: 'ease-in' } },
    ]);
  });

  it('stagger layers in place of their own delays', () => {
    const changed = after(edits.setStagger(piece, 'ab', ['r', 'e'], { each_ms: 40 }));
    expect(known(changed.transitions)[0]).toMatchObject({
      staggers: [{ layers: ['r', 'e'], each_ms: 40 }],
      lanes: [{ layer: 'r', delay_ms: 0 }],
    });
    expect(
      known(known(after(edits.setStagger(changed, 'ab', ['e', 'r'], null), changed).transitions)[0]).staggers,
    ).toEqual([]);
  });
});

describe('motion along a section', () => {
  const section = { id: 'first', name: 'First', height: 100 };
  const story = { ...piece, sections: [section] } as Piece;

  it('is one course for each property, together for a section, and gone with its last', () => {
    const one = after(edits.addAlong(story, 'e', section, 'rotation', 0), story);
    const both = after(edits.addAlong(one, 'e', section, 'opacity', 1), one);
    expect(both.undercurrents).toHaveLength(1);
    const [turn, fade] = edits.alongOf(both, 'e');
    expect([turn, fade].map((along) => [along?.course.property, along?.shares])).toEqual([
      ['rotation', [0, 1]],
      ['opacity', [0, 1]],
    ]);
    expect(edits.freeForAlong(both, 'e').map(({ name }) => name)).not.toContain('rotation');
    const turned = after(edits.setAlong(known(turn), 1, 90), both);
    expect(edits.alongOf(turned, 'e')[0]?.course.keys.map(({ value }) => value)).toEqual([0, 90]);
    const left = after(edits.removeAlong(turned, known(turn)), turned);
    expect(edits.alongOf(left, 'e').map(({ course }) => course.property)).toEqual(['opacity']);
    const [last] = edits.alongOf(left, 'e');
    expect(after(edits.removeAlong(left, known(last)), left).undercurrents).toEqual([]);
    expect(edits.alongOf(both, 'g')).toEqual([]);
  });
});
