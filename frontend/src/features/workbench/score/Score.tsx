import { Dropdown } from 'antd';
import { useMemo, useRef, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { attempt, choose, make, namedOf, useBench } from '../bench';
import * as edits from '../edits';
import { NameField } from '../Rename';
import { lastResult } from '../lastResult';
import { changingRows, placed, propertiesOf, rowOf } from '../tree';
import { Arches } from './Arches';
import { columnKeys, columnsOf, HEAD_W } from './columns';
import { GapHead, StateHead, WayHead } from './heads';
import './score.css';
import { ScoreRow } from './ScoreRow';
import { ROW_H, useWindow } from './useWindow';

const rowsOf = lastResult(changingRows);

/** The sheet: states as columns, the ways between them, and only what changes as rows. */
export function Score() {
  // Keys, compared one by one: an edit of a number leaves rows and columns as they are.
  const columnIds = useBench(useShallow((b) => columnKeys(b.document!)));
  const rows = useBench(useShallow((b) => rowsOf(b.document!, b.poses, b.askedRows)));
  const columns = useMemo(() => columnsOf(columnIds), [columnIds]);
  const width = columns.reduce((sum, c) => sum + c.width, 0);
  const scroller = useRef<HTMLDivElement>(null);
  const { from, to } = useWindow(scroller, rows.length);
  const layers = useBench((b) => b.document!.layers);
  const total = useMemo(() => edits.countProperties(layers ?? []), [layers]);
  return (
    <section className="score" aria-label="Score">
      <div className="score-scroll" ref={scroller}>
        <table aria-rowcount={rows.length + 2} style={{ width: HEAD_W + width }}>
          <colgroup>
            <col style={{ width: HEAD_W }} />
            {columns.map((c) => (
              <col key={c.id} style={{ width: c.width }} />
            ))}
          </colgroup>
          <thead>
            <tr className="arches">
              <th className="corner" />
              <td colSpan={columns.length}>
                <Arches columns={columns} width={width} />
              </td>
            </tr>
            <tr>
              <th className="corner">
                changes only <b>{rows.length} of {total} rows</b>
              </th>
              {columns.map((c) =>
                c.kind === 'state' ? <StateHead key={c.id} id={c.id} /> : c.kind === 'way' ? <WayHead key={c.id} id={c.id} /> : <GapHead key={c.id} between={c.id} />,
              )}
            </tr>
          </thead>
          <tbody>
            <Spacer rows={from} />
            {rows.slice(from, to).map((row, at) => (
              <ScoreRow key={row} row={row} index={from + at} first={at === 0 || rowOf(rows[from + at - 1]!)[0] !== rowOf(row)[0]} columns={columns} />
            ))}
            <Spacer rows={rows.length - to} />
          </tbody>
        </table>
        {!rows.length && <p className="hint">No state differs from another yet. Choose a state, move a layer, and its row appears here.</p>}
      </div>
      <ScoreFoot />
    </section>
  );
}

/** The room of rows that are out of view. */
function Spacer({ rows }: { rows: number }) {
  return rows > 0 ? <tr aria-hidden="true" className="spacer" style={{ height: rows * ROW_H }} /> : null;
}

/** The document at the moment of an action. */
const now = () => useBench.getState().document!;

function ScoreFoot() {
  const states = useBench(useShallow((b) => b.document!.states.map((s) => `${s.id} ${s.name}`))).map(namedOf);
  const start = useBench((b) => b.document!.start);
  const stateId = useBench((b) => b.state);
  const layerId = useBench((b) => b.layer);
  const asked = useBench((b) => b.askedRows);
  const [renaming, setRenaming] = useState(false);
  const layer = useBench((b) => (layerId ? placed(b.document!, layerId)?.layer : undefined));
  const index = states.findIndex((s) => s.id === stateId);
  const state = states[index]!;
  const add = async (edit: edits.Edit & { id: string }) => {
    if (await attempt(edit)) choose({ state: edit.id });
  };
  const properties = layer ? propertiesOf(layer).filter((p) => p.varies) : [];
  const others = states.filter((s) => s.id !== stateId);
  return (
    <footer className="score-foot">
      <button className="plain" title={`After ${state.name}, looking like it`} onClick={() => void add(edits.addState(now(), stateId))}>
        + state
      </button>
      <Dropdown
        trigger={['click']}
        disabled={!layer}
        menu={{ items: properties.map((p) => ({ key: p.name, label: p.label, onClick: () => choose({ askedRows: [...asked, `${layerId}/${p.name}`] }) })), style: { maxHeight: 320, overflow: 'auto' } }}
      >
        <button className="plain" disabled={!layer} title={layer ? `A property of ${layer.name}` : 'Choose a layer first'}>
          + row
        </button>
      </Dropdown>
      <Dropdown
        trigger={['click']}
        disabled={!others.length}
        menu={{ items: others.map((s) => ({ key: s.id, label: `to ${s.name}`, onClick: () => void attempt(edits.addTransition(now(), stateId, s.id)) })) }}
      >
        <button className="plain" disabled={!others.length}>
          + transition
        </button>
      </Dropdown>
      <span className="spring" />
      <span className="quiet">State</span>
      {renaming ? <NameField value={state.name} label="Name of the state" commit={(name) => make(edits.renameState(now(), stateId, name))} close={() => setRenaming(false)} /> : <strong>{state.name}</strong>}
      <button className="plain" onClick={() => setRenaming(true)}>
        rename
      </button>
      <button className="plain" onClick={() => void add(edits.duplicateState(now(), stateId))}>
        duplicate
      </button>
      <button className="plain" disabled={index === 0} aria-label="Move state to the left" onClick={() => void attempt(edits.moveState(now(), stateId, -1))}>
        ←
      </button>
      <button className="plain" disabled={index === states.length - 1} aria-label="Move state to the right" onClick={() => void attempt(edits.moveState(now(), stateId, 1))}>
        →
      </button>
      <button className="plain" disabled={start === stateId} onClick={() => void attempt(edits.startAt(now(), stateId))}>
        {start === stateId ? 'starts here' : 'start here'}
      </button>
      <button className="plain" disabled={states.length === 1} onClick={() => void attempt(edits.removeState(now(), stateId))}>
        delete
      </button>
    </footer>
  );
}
