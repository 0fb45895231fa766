import { memo, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Piece, TransitionReading, Value } from '../../../api/contract';
import { sameValue } from '../../../shared/text/values';
import { useBench, type Bench } from '../bench';
import { choose } from '../choosing';
import { lastResult } from '../lastResult';
import { known } from '../../../shared/known';
import { propertyNamed, rowOf, type RowKey } from '../tree';
import type { Column } from './columns';
import { isInner } from './opened';
import { InnerCell, RowHead } from './RowHead';
import { OWN, POSED, SAME } from './looks';
import { PassingCell, ScoreCell } from './ScoreCell';
import { COLUMNS_BEYOND } from './useWindow';

interface Props {
  row: RowKey;
  index: number;
  /** The first row of its layer carries the name. */
  first: boolean;
  columns: readonly Column[];
  /** The columns in view. */
  from: number;
  to: number;
  passing: boolean;
}

/** One row of the score. One that comes into view scrolled is plain text until the score rests: fields are slow. */
export const ScoreRow = memo(function ScoreRow(row: Props) {
  const { passing } = row;
  const [layer] = rowOf(row.row);
  const inner = isInner(row.row);
  const [met, setMet] = useState(!passing);
  if (!passing && !met) setMet(true);
  const chosen = useBench((b) => b.layer === layer);
  const Cells = met ? RowCells : PassingCells;
  return (
    <tr
      aria-rowindex={row.index + 3}
      className={`${row.first ? 'first' : ''} ${chosen ? 'chosen' : ''} ${inner ? 'inner' : ''}`}
      data-score-row={row.row}
    >
      <RowHead layer={layer} property={rowOf(row.row)[1]} first={row.first} inner={inner} />
      <Cells {...row} />
    </tr>
  );
});

function RowCells({ row, index, columns, from, to, passing }: Props) {
  const [layer, property] = rowOf(row);
  const inner = isInner(row);
  // One look at the bench for the whole row, in plain values: thousands of cells that look by themselves are slow.
  const shown = useBench(useShallow((b) => readRow(b, layer, property, columns)));
  return (
    <>
      {from > 0 && <td style={{ width: known(columns[from]).x }} />}
      {columns.slice(from, to).map((column, i) => {
        const at = from + i;
        const [a, b, c] = shown.slice(at * 3, at * 3 + 3);
        if (column.kind === 'gap' || a === undefined) return <td key={column.id} style={{ width: column.width }} />;
        if (inner && column.kind === 'state')
          return <InnerCell key={column.id} property={property} value={a} look={Number(b)} />;
        return column.kind === 'state' ? (
          <ScoreCell
            key={column.id}
            column={at}
            row={index}
            layer={layer}
            property={property}
            state={column.id}
            value={a}
            look={Number(b)}
            passing={passing}
          />
        ) : (
          <WayCell key={column.id} transition={column.id} start={Number(a)} end={Number(b)} length={Number(c)} />
        );
      })}
    </>
  );
}

/** What is seen of a row while it passes: only the columns in view, and nothing that listens. */
function PassingCells({ row, columns, from, to }: Props) {
  const [layer, property] = rowOf(row);
  const { unit } = propertyNamed(property);
  const first = from && from + COLUMNS_BEYOND;
  const last = to === columns.length ? to : to - COLUMNS_BEYOND;
  const [shown] = useState(() => readRow(useBench.getState(), layer, property, columns));
  return (
    <>
      {first > 0 && <td style={{ width: known(columns[first]).x }} />}
      {columns.slice(first, last).map(({ id, kind, width }, i) => {
        const [a, b, c] = shown.slice((first + i) * 3, (first + i) * 3 + 3);
        if (kind === 'gap' || a === undefined) return <td key={id} style={{ width }} />;
        return kind === 'state' ? (
          <PassingCell key={id} value={a} look={Number(b)} unit={unit} />
        ) : (
          <td key={id} className="way">
            <Stretch start={Number(a)} end={Number(b)} length={Number(c)} />
          </td>
        );
      })}
    </>
  );
}

/** Three values for each column: of a state its value and how it looks, of a way the span that moves and its length. */
function readRow(bench: Bench, layer: string, property: string, columns: readonly Column[]): (Value | undefined)[] {
  let before: Value | undefined;
  return columns.flatMap(({ kind, id }) => {
    if (kind === 'way') {
      const [start, end] = spanOf(bench.readings[id], layer, property);
      return [start, end, bench.readings[id]?.length_ms ?? 1];
    }
    if (kind === 'gap') return [undefined, undefined, undefined];
    const value = bench.poses[id]?.[layer]?.[property];
    const own = ownValues(bench.document).has(`${id}/${layer}/${property}`);
    const look = (own ? OWN : 0) | (sameValue(value, before) ? SAME : 0) | (bench.state === id ? POSED : 0);
    before = value;
    return [value, look, undefined];
  });
}

/** state/layer/property of all differences. */
const ownValues = lastResult(
  (document: Piece) =>
    new Set(
      document.states.flatMap((state) =>
        Object.entries(state.changes ?? {}).flatMap(([layer, look]) =>
          Object.keys(look).map((name) => `${state.id}/${layer}/${name}`),
        ),
      ),
    ),
);

interface WayProps {
  transition: string;
  /** ms inside the transition, below 0 for none */
  start: number;
  end: number;
  length: number;
}

/** When the property moves inside the transition. */
const WayCell = memo(function WayCell({ transition, start, end, length }: WayProps) {
  const chosen = useBench((b) => b.transition === transition || b.alsoWays.includes(transition));
  return (
    <td
      className={`way${chosen ? ' chosen' : ''}`}
      onClick={() => choose({ transition, lane: null })}
      title={start >= 0 ? `${start} to ${end} ms` : undefined}
    >
      <Stretch start={start} end={end} length={length} />
    </td>
  );
});

function Stretch({ start, end, length }: Omit<WayProps, 'transition'>) {
  if (start < 0) return <span className="still" />;
  if (end <= start) return <span className="cut-mark" />;
  const share = 84 / Math.max(length, 1);
  const width = Math.max((end - start) * share, 2);
  return <span className="bar" style={{ left: `${8 + start * share}%`, width: `${width}%` }} />;
}

/** When a property moves; the state of a copy moves as long as anything in it does. Below 0 for never. */
function spanOf(reading: TransitionReading | undefined, layer: string, property: string): Span {
  if (!reading) return NEVER;
  const { moves, copies } = spansOf(reading);
  return (property === 'state' ? copies.get(layer) : undefined) ?? moves.get(`${layer}/${property}`) ?? NEVER;
}

type Span = readonly [start: number, end: number];
const NEVER: Span = [-1, -1];
/** Of each property, and of all that lies in a copy together. */
interface Spans {
  moves: Map<string, Span>;
  copies: Map<string, Span>;
}
const indexed = new WeakMap<TransitionReading, Spans>();

/** Looked up by every row at every change, so the moves of a reading are gone through once. */
function spansOf(reading: TransitionReading): Spans {
  const before = indexed.get(reading);
  if (before) return before;
  const found: Spans = { moves: new Map(), copies: new Map() };
  for (const [layer, property, start, end] of reading.moves) {
    found.moves.set(`${layer}/${property}`, [start, end]);
    for (let at = layer.indexOf('/'); at > 0; at = layer.indexOf('/', at + 1)) {
      const copy = layer.slice(0, at);
      const [first, last] = found.copies.get(copy) ?? [start, end];
      found.copies.set(copy, [Math.min(first, start), Math.max(last, end)]);
    }
  }
  indexed.set(reading, found);
  return found;
}
