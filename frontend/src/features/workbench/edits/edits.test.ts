import { applyPatch } from 'fast-json-patch';
import { describe, expect, it } from 'vitest';
import type { Piece, Run } from '../../../api/contract';
import * as edits from '.';
import { known } from '../../../shared/known';

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
    {
      id: 'ab',
      from: 'a',
      to: 'b',
      cue: 'hold',
      hold_ms: 120,
      style: 'tween',
      timing: curve,
      lanes: [{ layer: 'r', delay_ms: 10 }],
    },
    { id: 'bc', from: 'b', to: 'c', cue: 'tap', hold_ms: 0, style: 'tween', timing: { ...curve, duration_ms: 300 } },
  ],
};

const after = (edit: edits.Edit, before = piece): Piece =>
  applyPatch(structuredClone(before), structuredClone(edit.patch) as never, true).newDocument;

describe('values', () => {
  it('go into one state, and stay its own where the base has the same', () => {
    expect(known(known(after(edits.setValues(piece, 'b', 'r', { x: 20, y: 3 }, 'state')).states[1]).changes).r).toEqual(
      { x: 20, y: 3 },
    );
    expect(after(edits.setValues(piece, 'a', 'r', { x: 7 }, 'state')).states[0].changes).toEqual({ r: { x: 7 } });
    expect(known(after(edits.setValues(piece, 'b', 'e', { opacity: 0.5 }, 'state')).states[1]).changes).toEqual({
      r: { x: 9 },
      e: { opacity: 0.5 },
    });
    expect(known(after(edits.setValues(piece, 'c', 'e', { rotation: 0 }, 'state')).states[2]).changes).toEqual({
      e: { rotation: 0 },
    });
  });

  it('go into the base, wherever the layer lies', () => {
    const changed = after(edits.setValues(piece, 'b', 'r', { x: 20 }, 'base'));
    expect(known(changed.layers)[0]).toMatchObject({ layers: [{ id: 'r', x: 20 }] });
    expect(changed.states).toEqual(piece.states);
  });

  it('can be cleared', () => {
    expect(known(after(edits.clearValue(piece, 'b', 'e', 'opacity')).states[1]).changes).toEqual({ r: { x: 9 } });
    expect(edits.clearValue(piece, 'c', 'e', 'opacity').patch).toEqual([]);
  });

  it('go into several layers, each with its own where that is wanted', () => {
    expect(known(after(edits.setValues(piece, 'c', ['r', 'e'], { x: 7 }, 'state')).states[2]).changes).toEqual({
      r: { x: 7 },
      e: { x: 7 },
    });
    expect(after(edits.setValues(piece, 'a', ['r', 'e'], { x: 7 }, 'state')).states[0].changes).toEqual({
      r: { x: 7 },
      e: { x: 7 },
    });
    expect(edits.setLooks(piece, 'a', { r: { x: 7 }, e: { y: 1 } }, 'base').label).toBe('x, y of 2 layers, all states');
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
    expect(known(changed.transitions).map((t) => [t.from, t.to, t.hold_ms])).toEqual([
      ['new-one', 'b', 0],
      ['b', 'c', 0],
      ['a', 'new-one', 120],
    ]);
  });

  it.each(['a', 'b', 'c'])('deleted just after having been added after %s leave the run as it was', (id) => {
    const added = edits.addState(piece, id, 'New');
    const removed = after(edits.removeState(after(added), added.id), after(added));
    const ways = (p: Piece) =>
      known(p.transitions)
        .map((t) => [t.from, t.to, t.cue, t.hold_ms, t.timing])
        .sort();
    expect(removed.states).toEqual(piece.states);
    expect(ways(removed)).toEqual(ways(piece));
  });

  it('deleted where the piece starts pass the start on', () => {
    const changed = after(edits.removeState(piece, 'a'));
    expect([changed.start, known(changed.transitions).map((t) => t.id)]).toEqual(['b', ['bc']]);
    expect(after(edits.removeState(piece, 'b')).transitions).toMatchObject([
      { id: 'ab', to: 'c', hold_ms: 120, timing: { duration_ms: 300 } },
    ]);
  });

  it('move, as far as there is room', () => {
    expect(after(edits.moveState(piece, 'a', 1)).states.map((s) => s.id)).toEqual(['b', 'a', 'c']);
    expect(edits.moveState(piece, 'a', -1).patch).toEqual([]);
  });
});

describe('states on the way', () => {
  it('come before another, which what led there leads through', () => {
    const changed = after(edits.addStateBefore(piece, 'a'));
    expect([changed.start, changed.states.map((s) => s.id), known(changed.transitions).at(-1)]).toMatchObject([
      'state-4',
      ['state-4', 'a', 'b', 'c'],
      { from: 'state-4', to: 'a' },
    ]);
    expect(known(after(edits.addStateBefore(piece, 'b')).transitions).map((t) => [t.from, t.to])).toEqual([
      ['a', 'state-4'],
      ['b', 'c'],
      ['state-4', 'b'],
    ]);
  });

  it('lie in the middle, and both halves take as long as the whole', () => {
    const changed = after(edits.addStateBetween(piece, 'ab', { r: { x: 5 } }));
    expect(changed.states.map((s) => s.id)).toEqual(['a', 'state-4', 'b', 'c']);
    expect(known(changed.transitions).slice(0, 2)).toMatchObject([
      { from: 'a', to: 'state-4', hold_ms: 120, timing: { duration_ms: 100 } },
      { from: 'state-4', to: 'b', cue: 'hold', hold_ms: 0, timing: { duration_ms: 100 } },
    ]);
  });
});

describe('cells', () => {
  const cells = { rows: ['r/x', 'e/opacity'] as const, states: ['a', 'b', 'c'] };
  const read = (p: Piece) => cells.rows.map((row) => cells.states.map((state) => edits.writtenIn(p, state, row)));

  it.each<[string, () => edits.Edit, unknown[][]]>([
    [
      'are filled across',
      () => edits.fillAcross(piece, { ...cells, states: ['b', 'c'] }),
      [
        [1, 9, 9],
        [0.5, 1, 1],
      ],
    ],
    [
      'are mirrored',
      () => edits.mirrorCells(piece, { ...cells, states: ['a', 'b'] }),
      [
        [9, 1, 1],
        [1, 0.5, 0.5],
      ],
    ],
    [
      'go back to the base',
      () => edits.clearCells(piece, cells),
      [
        [1, 1, 1],
        [0.5, 0.5, 0.5],
      ],
    ],
    [
      'are spread',
      () => edits.spreadCells(piece, cells, [{ r: { x: 4 } }], 'evenly'),
      [
        [1, 4, 1],
        [0.5, 0.5, 0.5],
      ],
    ],
    [
      'are pasted',
      () => edits.pasteCells(piece, cells, '1\t2+3\n\t0,25\n') as edits.Edit,
      [
        [1, 5, 1],
        [0.5, 0.25, 0.5],
      ],
    ],
  ])('%s', (_, edit, expected) => {
    expect(read(after(edit()))).toEqual(expected);
  });

  it('are copied as text, and pasted to be the same', () => {
    const text = edits.cellsText(piece, cells);
    expect(text).toBe('1\t9\t1\n0.5\t1\t0.5');
    expect(read(after(edits.pasteCells(piece, cells, text) as edits.Edit))).toEqual([
      [1, 9, 1],
      [0.5, 1, 0.5],
    ]);
    const third = after(edits.setValues(piece, 'a', 'r', { x: 61 / 3 }, 'state'));
    expect(edits.cellsText(third, { rows: ['r/x'], states: ['a'] })).toBe(String(61 / 3));
  });

  it.each([
    ['1\tabc', 'x of R, line 1, cell 2: “abc” is not a number'],
    ['1\t2\t3\t4', 'has 1 × 4 cells, and from here the score has room for 2 × 3'],
  ])('%s is not pasted', (text, says) => {
    expect((edits.pasteCells(piece, cells, text) as { fault: string }).fault).toContain(says);
  });
});

describe('names and copies', () => {
  it('two states never get one name', () => {
    expect(edits.renameState(piece, 'b', 'A').patch).toMatchObject([{ value: 'A 2' }]);
    expect(edits.renameState(piece, 'a', 'A').patch).toMatchObject([{ value: 'A' }]);
    const twice = after(edits.addState(piece, 'a', 'State 4'));
    expect(after(edits.addState(twice, 'a', 'State 4'), twice).states.map((s) => s.name)).toEqual([
      'A',
      'State 5',
      'State 4',
      'B',
      'C',
    ]);
  });

  it('a copy takes its lanes and its place in staggers along', () => {
    const staggered = after(edits.setStagger(piece, 'ab', ['r', 'e'], { each_ms: 40 }));
    const copied = after(edits.duplicateLayers(staggered, ['r']), staggered);
    expect(known(copied.transitions)[0]).toMatchObject({
      lanes: [
        { layer: 'r', delay_ms: 0 },
        { layer: 'r-2', delay_ms: 0 },
      ],
      staggers: [{ layers: ['r', 'r-2', 'e'] }],
    });
  });

  it('texts are not spread', () => {
    const text = {
      ...piece,
      layers: [{ kind: 'text', id: 'w', name: 'W', x: 0, y: 0, width: 9, height: 9, text: 'Quay' }],
    } as unknown as Piece;
    const said = after(edits.setValues(text, 'b', 'w', { text: 'Pier' }, 'state'), text);
    const spread = after(
      edits.spreadCells(said, { rows: ['w/text'], states: ['a', 'b', 'c'] }, [{ w: { text: 'Gone' } }], 'linear'),
      said,
    );
    expect(['a', 'b', 'c'].map((state) => edits.writtenIn(spread, state, 'w/text'))).toEqual(['Quay', 'Pier', 'Quay']);
  });
});

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
