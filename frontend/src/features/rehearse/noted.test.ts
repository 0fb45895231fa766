import { describe, expect, it } from 'vitest';
import { back, tables, tap, there, ways } from '../../runtime/example';
import { foreseen } from './noted';

const bars = (list: readonly { start_ms: number; end_ms: number }[]) =>
  list.map(({ start_ms, end_ms }) => [start_ms, end_ms]);

describe('what is noted of a rehearsal', () => {
  const piece = tables(ways(there, back));

  it('has the ways, what moved, and what was done', () => {
    const { noted, until_ms } = foreseen(piece, [tap(0), tap(300)]);
    expect(bars(noted.ways)).toEqual([
      [0, 100],
      [300, 400],
    ]);
    expect(bars(noted.rows(piece)[0]?.bars ?? [])).toEqual([
      [0, 100],
      [300, 400],
    ]);
    expect(noted.done).toEqual([
      { t_ms: 0, what: 'tap', heeded: true },
      { t_ms: 300, what: 'tap', heeded: true },
    ]);
    expect(until_ms).toBe(900);
  });

  it('ends what is interrupted where it is, and joins what goes on', () => {
    const { noted } = foreseen(piece, [tap(0), tap(25)]);
    expect(bars(noted.ways)).toEqual([
      [0, 25],
      [25, 50],
    ]);
    expect(bars(noted.bars)).toEqual([
      [0, 25],
      [25, 50],
    ]);
    expect(bars(noted.rows(piece)[0]?.bars ?? [])).toEqual([[0, 50]]);
  });

  it('tells what set nothing off from what did', () => {
    const { noted } = foreseen(tables(ways(there)), [tap(0), tap(200)]);
    expect(noted.done.map(({ heeded }) => heeded)).toEqual([true, false]);
  });

  it('lists layers in their order, and none that stands still', () => {
    const still = { id: 'still', name: 'Still', around: null, through: false, margin: 0, seen: true };
    const { noted } = foreseen({ ...piece, layers: [still, ...piece.layers] }, [tap(0)]);
    expect(noted.rows({ ...piece, layers: [still, ...piece.layers] }).map(({ name }) => name)).toEqual(['Box']);
  });
});
