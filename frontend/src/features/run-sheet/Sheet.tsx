import { useMemo, useRef } from 'react';
import { usePlayed, useSize, useWindow, type RowKey } from '../workbench';
import { Axis } from './Axis';
import { Graph } from './Graph';
import type { Mark } from './findings';
import type { Bar, Snap } from './model';
import { Playhead } from './Playhead';
import { ROW_H } from './rowHeight';
import { Rows } from './Rows';
import { Voices } from './Voices';

export const NAMES_W = 150;
/** px at the right that stay free, for the figure at the end of the ruler */
const END = 26;

interface Props {
  bars: readonly Bar[];
  rows: readonly RowKey[];
  chosen: readonly string[];
  choose: (keys: readonly string[]) => void;
  snap: Snap;
  marks: readonly Mark[];
}

/** From ms of the run to px, and back. */
export interface Scale {
  x: (ms: number) => number;
  ms: (px: number) => number;
  /** px of the axis */
  width: number;
}

/** The ruler, the states, a line for each row, and the graph of the row that is chosen. */
export function Sheet({ bars, rows, chosen, choose, snap, marks }: Props) {
  const run = usePlayed((p) => p.run);
  const { ref, size } = useSize<HTMLDivElement>();
  const width = Math.max(size.width - NAMES_W - END, 100);
  const scale = useMemo<Scale>(
    () => ({ width, x: (ms) => (ms / Math.max(run.total_ms, 1)) * width, ms: (px) => (px / width) * run.total_ms }),
    [width, run.total_ms],
  );
  const body = useRef<HTMLDivElement>(null);
  const window = useWindow(body, rows.length, ROW_H);
  const shown = bars.find((bar) => bar.key === chosen.at(-1))?.row ?? rows[0];
  return (
    <div className="sheet" ref={ref}>
      <Axis run={run} scale={scale} marks={marks} />
      <div className="sheet-rows" hidden={!rows.length} ref={body}>
        <Rows
          bars={bars}
          rows={rows}
          shown={window}
          chosen={chosen}
          choose={choose}
          snap={snap}
          scale={scale}
          marks={marks}
        />
      </div>
      <Voices run={run} scale={scale} />
      {shown && <Graph row={shown} scale={scale} />}
      <Playhead run={run} scale={scale} />
    </div>
  );
}
