import { Flex } from 'antd';
import { useRef } from 'react';
import { PlainButton } from '../../shared/ui/PlainButton';
import { usePlayed, useSize, useWindow, type RowKey } from '../workbench';
import { Axis } from './Axis';
import { Divider } from '../../shared/ui/Divider';
import { Graphs } from './Graph';
import type { Mark } from './findings';
import type { Bar, Snap } from './model';
import { Playhead } from './Playhead';
import { ROW_H } from './rowHeight';
import { Rows } from './Rows';
import { Rounds } from './Rounds';
import { Overview } from './Overview';
import { useAxis, useAxisHands, type SheetAxis } from './useAxis';
import { useWayPull } from './useWayPull';
import { Voices } from './Voices';

export const NAMES_W = 150;
/** Rows of which more are chosen are still bars; these have graphs. */
const MOST_GRAPHS = 4;
/** px at the right that stay free, for the figure at the end of the ruler */
const END = 26;

interface Props {
  bars: readonly Bar[];
  rows: readonly RowKey[];
  chosen: readonly string[];
  choose: (keys: readonly string[]) => void;
  chooseWay: (way: string) => void;
  snap: Snap;
  marks: readonly Mark[];
}

/** From ms of the run to px, and back. */
export interface Scale {
  x: (ms: number) => number;
  ms: (px: number) => number;
  /** px of the axis */
  width: number;
  /** ms that are shown */
  from: number;
  to: number;
}

/** The ruler, the states, a line for each row, and the graph of the row that is chosen. */
export function Sheet({ bars, rows, chosen, choose, chooseWay, snap, marks }: Props) {
  const run = usePlayed((p) => p.run);
  const { ref, size } = useSize<HTMLDivElement>();
  const width = Math.max(size.width - NAMES_W - END, 100);
  const axis = useAxis(run, width);
  const { scale } = axis;
  const { after, hands } = useWayPull(run, scale, chooseWay);
  const picked = bars.filter((bar) => chosen.includes(bar.key));
  const toChosen = picked.length
    ? () => axis.toPart(Math.min(...picked.map((bar) => bar.start_ms)), Math.max(...picked.map((bar) => bar.end_ms)))
    : null;
  useAxisHands(axis, ref, toChosen);
  const body = useRef<HTMLDivElement>(null);
  const window = useWindow(body, rows.length, ROW_H);
  const graphed = [...new Set(picked.map(({ row }) => row))].slice(-MOST_GRAPHS);
  const shown = graphed.length ? graphed : rows.slice(0, 1);
  return (
    <div className={axis.isWhole ? 'sheet' : 'sheet zoomed'} ref={ref}>
      <Overview axis={axis} total={run.total_ms} />
      <Zoom axis={axis} toChosen={toChosen} />
      <Axis run={run} scale={scale} after={after} marks={marks} segments={hands} />
      <div className="sheet-rows" hidden={!rows.length} ref={body}>
        <Rows
          bars={bars}
          rows={rows}
          shown={window}
          chosen={chosen}
          choose={choose}
          snap={snap}
          scale={after}
          marks={marks}
        />
      </div>
      <Rounds run={run} scale={scale} />
      <Voices run={run} scale={scale} />
      {shown.length > 0 && (
        <>
          <Divider of="graphs" label="Height of the graphs" least={80} most={460} />
          <Graphs rows={shown} scale={scale} />
        </>
      )}
      <Playhead run={run} scale={scale} />
    </div>
  );
}

/** How near the run is looked at. */
const Zoom = ({ axis: { by, whole, isWhole }, toChosen }: { axis: SheetAxis; toChosen: (() => void) | null }) => (
  <Flex gap={2} className="sheet-zoom" role="group" aria-label="How near the run is">
    <PlainButton title="Further away (−)" aria-label="further away" disabled={isWhole} onClick={() => by(0.5)}>
      −
    </PlainButton>
    <PlainButton title="Nearer (+); the wheel on the ruler too" aria-label="nearer" onClick={() => by(2)}>
      +
    </PlainButton>
    <PlainButton title="The whole run (W)" disabled={isWhole} onClick={whole}>
      all
    </PlainButton>
    <PlainButton
      title={toChosen ? 'What is chosen (N)' : 'Choose a bar first'}
      disabled={!toChosen}
      onClick={() => toChosen?.()}
    >
      chosen
    </PlainButton>
  </Flex>
);
