import { describe, expect, it } from 'vitest';
import type { Piece } from '../../../api/contract';
import * as edits from '.';
import { known } from '../../../shared/known';
import { piece, after } from './example';

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
    const edit = edits.addState(piece, 'a');
    const changed = after(edit);
    expect(changed.states.map((s) => s.id)).toEqual(['a', 'state-4', 'b', 'c']);
    expect(known(changed.transitions).map((t) => [t.from, t.to, t.hold_ms])).toEqual([
      ['state-4', 'b', 0],
      ['b', 'c', 0],
      ['a', 'state-4', 120],
    ]);
  });

  it.each(['a', 'b', 'c'])('deleted just after having been added after %s leave the run as it was', (id) => {
    const added = edits.addState(piece, id);
    const removed = after(edits.removeState(after(added), added.id), after(added));
    const ways = (p: Piece) =>
      known(p.transitions)
        .map((t) => [t.from, t.to, t.cue, t.hold_ms, t.timing])
        .sort();
    expect(removed.states).toEqual(piece.states);
    expect(ways(removed)).toEqual(ways(piece));
  });

  it('come as a branch, and change nothing else', () => {
    const changed = after(edits.addBranch(piece, 'a'));
    expect(known(changed.transitions).slice(0, -1)).toEqual(piece.transitions);
    expect(known(changed.transitions).at(-1)).toMatchObject({ from: 'a', to: 'state-4', cue: 'tap' });
    expect(changed.states.at(-1)).toMatchObject({ id: 'state-4', changes: known(piece.states[0]).changes ?? {} });
  });

  it('are copied beside themselves, and nothing leads to the copy', () => {
    const changed = after(edits.duplicateState(piece, 'a'));
    expect(changed.states.map((s) => s.name)).toEqual(['A', 'A 2', 'B', 'C']);
    expect(changed.transitions).toEqual(piece.transitions);
  });

  it.each([
    ['over', 'out'],
    ['out', 'over'],
    ['tap', 'tap'],
    ['press', 'release'],
    ['in-view', 'out-of-view'],
    ['hold', 'hold'],
    ['appear', 'hold'],
  ] as const)('there on %s are left again on %s, in the same time', (there, back) => {
    const way = { ...known(known(piece.transitions)[0]), cue: there, cue_layer: 'r', hold_ms: 70 };
    const made = known(after(edits.addWayBack(piece, way)).transitions).at(-1);
    expect(made).toMatchObject({ from: way.to, to: way.from, cue: back, hold_ms: 70, timing: way.timing });
    expect(made?.cue_layer).toBe(back === 'hold' ? undefined : 'r');
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
    const twice = after(edits.addState(piece, 'a'));
    expect(after(edits.addState(twice, 'a'), twice).states.map((s) => s.name)).toEqual([
      'A',
      'State 5',
      'State 4',
      'B',
      'C',
    ]);
  });

  it('copies of layers are numbered, and a text is called by its words until it is renamed', () => {
    const twice = after(edits.duplicateLayer(piece, 'e'));
    expect(edits.duplicateLayer(twice, 'e').patch[0]).toMatchObject({ value: { name: 'E 3' } });
    const added = after(edits.addLayer(piece, 'text'));
    const said = after(edits.setValues(added, 'a', 'text', { text: ' Ferry\n 9 ' }, 'base'), added);
    const text = (changed: Piece) => known(changed.layers?.find(({ id }) => id === 'text'));
    expect(text(said).name).toBe('Ferry 9');
    const named = after(edits.renameLayer(said, 'text', 'Title'), said);
    expect(text(after(edits.setValues(named, 'a', 'text', { text: 'Ferry 10' }, 'base'), named)).name).toBe('Title');
    // Words of one state alone are no name.
    expect(text(after(edits.setValues(said, 'a', 'text', { text: 'Late' }, 'state'), said)).name).toBe('Ferry 9');
  });

  it('layers are pasted into another piece, with their looks in states of the same name', () => {
    const copied = known(edits.copiedIn(edits.layersText(piece, ['g', 'e'])));
    const other: Piece = {
      ...piece,
      layers: [{ ...known(piece.layers)[1], id: 'e' } as never],
      states: [{ id: 'z', name: 'B' }],
    };
    const { ids, ...edit } = edits.pasteLayers(other, copied, null);
    const pasted = after(edit, other);
    expect(ids).toEqual(['g', 'e-2']);
    expect(pasted.layers?.map(({ id, name }) => [id, name])).toEqual([
      ['e', 'E'],
      ['g', 'G'],
      ['e-2', 'E 2'],
    ]);
    expect(pasted.states[0].changes).toEqual({ r: { x: 9 }, 'e-2': { opacity: 1 } });
    for (const text of [
      '',
      'keen-ripple layers',
      '{"kind": "keen-ripple layers"}',
      '{"kind": "keen-ripple layers", "layers": [3]}',
      '{"kind": "keen-ripple layers", "layers": [{"id": "a", "name": "A", "layers": [null]}]}',
      '[]',
    ])
      expect(edits.copiedIn(text)).toBeNull();
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

describe('cells of a spreadsheet', () => {
  it.each([
    [
      '1\t2\n3\t4\n',
      [
        ['1', '2'],
        ['3', '4'],
      ],
    ],
    ['"a ""b"""\t"c\td"\r\n"e\nf"', [['a "b"', 'c\td'], ['e\nf']]],
    ['', [['']]],
    ['a\t', [['a', '']]],
    ['say "no"', [['say "no"']]],
  ])('%j', (text, rows) => expect(edits.tableOf(text)).toEqual(rows));
});
