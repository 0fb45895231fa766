import { Flex } from 'antd';
import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { memo, useEffect, useMemo, useRef, type CSSProperties, type RefObject } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { attempt, useBench } from '../bench';
import { chosenLayers } from '../chosen';
import { moveState } from '../edits';
import { lastResult } from '../lastResult';
import { countProperties, rowOf, rowsOf } from '../tree';
import { look, useView, type RowFilter } from '../view';
import { Arches } from './Arches';
import { isMany, useBlock } from './block';
import { copyText, paste, shown } from './blockActions';
import { columnKeys, columnsOf, HEAD_W, STATE_W, WAY_W, type Column } from './columns';
import { GapHead, StateHead, WayHead } from './heads';
import './score.css';
import { isInner, withOpened } from './opened';
import { ScoreFoot } from './ScoreFoot';
import { ScoreRow } from './ScoreRow';
import { Traits } from './Traits';
import { ROW_H, useColumnWindow, useWindow } from './useWindow';
import { known } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';

const ownRows = lastResult(rowsOf);
const shownRows = lastResult(withOpened);

/** The sheet: states as columns, the ways between them, and what changes as rows. */
export function Score() {
  // Keys, compared one by one: an edit of a number leaves rows and columns as they are.
  const columnIds = useBench(useShallow((b) => columnKeys(b.document)));
  const { rows: filter, opened } = useView(useShallow(({ rows, opened }) => ({ rows, opened: opened.join() })));
  const rows = useBench(
    useShallow((b) => {
      const chosen = filter === 'chosen' ? chosenLayers(b).join() : '';
      return shownRows(ownRows(b.document, b.poses, b.askedRows, filter, chosen), b.poses, b.layers, opened);
    }),
  );
  const columns = useMemo(() => columnsOf(columnIds), [columnIds]);
  const width = columns.reduce((sum, c) => sum + c.width, 0);
  const scroller = useRef<HTMLDivElement>(null);
  const { from, to, passing } = useWindow(scroller, rows.length);
  const own = useMemo(() => rows.filter((row) => !isInner(row)).length, [rows]);
  const widths = useMemo(() => columns.map((column) => column.width), [columns]);
  const across = useColumnWindow(scroller, widths, HEAD_W);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 8 } }));
  useEffect(() => void Object.assign(shown, { rows, columns }), [rows, columns]);
  useClipboard(scroller);
  return (
    <Flex vertical component="section" className="score" aria-label="Score">
      <Traits />
      <div className="score-scroll" ref={scroller}>
        <DndContext sensors={sensors} onDragEnd={reorder}>
          <table aria-rowcount={rows.length + 2} style={widthsOf(HEAD_W + width)}>
            <Head columns={columns} width={width} rows={own} />
            <tbody>
              <Spacer rows={from} />
              {rows.slice(from, to).map((row, at) => (
                <ScoreRow
                  key={row}
                  row={row}
                  index={from + at}
                  first={at === 0 || rowOf(known(rows[from + at - 1]))[0] !== rowOf(row)[0]}
                  columns={columns}
                  from={across.from}
                  to={across.to}
                  passing={passing || across.passing}
                />
              ))}
              <Spacer rows={rows.length - to} />
            </tbody>
          </table>
        </DndContext>
        {!rows.length && <p className="hint">{filter === 'chosen' ? NONE_CHOSEN : NO_DIFFERENCE}</p>}
      </div>
      <ScoreFoot />
    </Flex>
  );
}

/** Of the whole, and of the cells of rows, which are laid out by themselves. */
const widthsOf = (width: number) =>
  ({
    width,
    '--whole': `${width}px`,
    '--head': `${HEAD_W}px`,
    '--state': `${STATE_W}px`,
    '--way': `${WAY_W}px`,
  }) as CSSProperties;

const NONE_CHOSEN = 'Choose a layer, and all its properties appear here.';
const NO_DIFFERENCE = 'No state differs from another yet. Choose a state, move a layer, and its row appears here.';
const HEADS = { state: StateHead, way: WayHead, gap: GapHead };

/** The states, and the transitions between them. */
const Head = memo(function Head({ columns, width, rows }: HeadProps) {
  return (
    <>
      <colgroup>
        <col style={{ width: HEAD_W }} />
        {columns.map((c) => (
          <col key={c.id} style={{ width: c.width }} />
        ))}
      </colgroup>
      <thead>
        <tr className="arches">
          <RowFilterSwitch />
          <td colSpan={columns.length}>
            <Arches columns={columns} width={width} />
          </td>
        </tr>
        <tr>
          <Corner rows={rows} />
          {columns.map(({ id, kind }) => {
            const Cell = HEADS[kind];
            return <Cell key={id} id={id} />;
          })}
        </tr>
      </thead>
    </>
  );
});

interface HeadProps {
  columns: readonly Column[];
  width: number;
  rows: number;
}

const FILTERS: { value: RowFilter; label: string; title: string }[] = [
  { value: 'changes', label: 'changes', title: 'Only what differs between states' },
  { value: 'chosen', label: 'chosen', title: 'All of the chosen layers' },
  { value: 'all', label: 'all', title: 'All of every layer' },
];

function Corner({ rows }: { rows: number }) {
  const layers = useBench((b) => b.document.layers);
  const total = useMemo(() => countProperties(layers ?? []), [layers]);
  return (
    <th className="corner">
      <b>
        {rows} of {total} rows
      </b>
    </th>
  );
}

/** Which rows are shown. */
function RowFilterSwitch() {
  const filter = useView((v) => v.rows);
  return (
    <th className="corner">
      <Flex gap={3} className="row-filter" role="group" aria-label="Rows">
        {FILTERS.map(({ value, label, title }) => (
          <PlainButton
            key={value}
            style={{ padding: '1px 2px', fontSize: 11 }}
            aria-pressed={filter === value}
            title={title}
            onClick={() => look({ rows: value })}
          >
            {label}
          </PlainButton>
        ))}
      </Flex>
    </th>
  );
}

/** The room of rows that are out of view. */
function Spacer({ rows }: { rows: number }) {
  return rows > 0 ? <tr aria-hidden="true" className="spacer" style={{ height: rows * ROW_H }} /> : null;
}

/** A state dropped on another takes its place. */
function reorder({ active, over }: DragEndEvent): void {
  const { document: piece } = useBench.getState();
  const place = (id: unknown) => piece.states.findIndex((s) => s.id === id);
  if (over && over.id !== active.id)
    void attempt(moveState(piece, String(active.id), place(over.id) - place(active.id)));
}

/** Blocks of cells, from here and from spreadsheets; a single value is the field's own affair. */
function useClipboard(scroller: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const element = known(scroller.current);
    const copy = (event: ClipboardEvent) => {
      const { block } = useBlock.getState();
      const text = block && isMany(block) ? copyText() : null;
      if (text === null) return;
      event.clipboardData?.setData('text/plain', text);
      event.preventDefault();
    };
    const take = (event: ClipboardEvent) => {
      const text = event.clipboardData?.getData('text/plain') ?? '';
      const { block } = useBlock.getState();
      // One value into one cell is the field's own affair.
      if (!(block && isMany(block)) && !/[\t\n]/.test(text.trimEnd())) return;
      event.preventDefault();
      event.stopPropagation();
      void paste(text);
    };
    element.addEventListener('copy', copy);
    element.addEventListener('paste', take);
    return () => {
      element.removeEventListener('copy', copy);
      element.removeEventListener('paste', take);
    };
  }, [scroller]);
}
