import { Flex } from 'antd';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { api } from '../../api/client';
import type { GraphOf } from '../../api/contract';
import { Cut } from '../../shared/ui/Cut';
import { area, line } from '../../shared/drawing/paint';
import { useHeight } from '../../shared/ui/Divider';
import { labelIn, propertyNamed, rowOf, useBench, usePlayed, useSize, type RowKey } from '../workbench';
import { figure, lineOf, speedsOf, type Line } from './model';
import type { Scale } from './Sheet';

const PAD = 12;
const LEAST_H = 56;
/** px above and below each */
const AROUND = 20;

interface Drawn extends Line {
  speeds: [number, number][];
}

/** Values and speeds of several rows through the run, one above the other. */
export function Graphs({ rows, scale }: { rows: readonly RowKey[]; scale: Scale }) {
  const chosen = useHeight('graphs');
  const { ref, size } = useSize<HTMLDivElement>();
  const each = Math.max((chosen ?? size.height) / rows.length - AROUND, LEAST_H);
  return (
    <div className="graphs" ref={ref} style={chosen === undefined ? undefined : { flex: 'none', height: chosen }}>
      {rows.map((row) => (
        <Graph key={row} row={row} scale={scale} height={each} />
      ))}
    </div>
  );
}

/** Value and speed of one row through the run, by its curves. */
function Graph({ row, scale, height }: { row: RowKey; scale: Scale; height: number }) {
  const drawn = useDrawn(row);
  const [layer, property] = rowOf(row);
  const name = useBench((b) => labelIn(b, layer));
  const { label, unit } = propertyNamed(property);
  return (
    <Flex component="section" className="graph" aria-label="Graph of value and speed">
      <Flex vertical className="graph-names" style={{ padding: '0 8px 0 14px' }}>
        <strong style={{ minWidth: 0 }}>
          <Cut name={`${name} · ${label}`} />
        </strong>
        {drawn ? (
          <>
            <span style={{ color: 'var(--glass)' }}>
              {figure(drawn.low)} to {figure(drawn.high)}
              {unit && ` ${unit}`}
            </span>
            <span style={{ color: 'var(--brass-text)' }}>
              at most {figure(drawn.fastest)}
              {unit && ` ${unit}`} per s
            </span>
          </>
        ) : (
          <span className="quiet">not a number: nothing to draw</span>
        )}
      </Flex>
      <svg
        width={scale.width + 26}
        height={height}
        role="img"
        aria-label={drawn ? `From ${drawn.low} to ${drawn.high}` : 'Nothing to draw'}
      >
        <rect {...area('white', 'hairline')} width={scale.width} height={height} />
        {drawn && <Lines drawn={drawn} scale={scale} height={height} />}
      </svg>
    </Flex>
  );
}

/** By the curves, as soon as they are told; until then, on trial, and of what is laid out beside the run, by the tape. */
function useDrawn(row: RowKey): Drawn | null {
  // The bars and the loop come first.
  const { run, tape, poses } = useDeferredValue(usePlayed(({ run, tape, poses }) => ({ run, tape, poses })));
  const byTape = useMemo(() => {
    const found = lineOf(row, run, tape, poses);
    return found && { ...found, speeds: speedsOf(found.points) };
  }, [row, run, tape, poses]);
  const isAsStored = useBench((b) => b.run === run);
  const exact = useCurves(row);
  return (isAsStored && exact) || byTape;
}

function useCurves(row: RowKey): Drawn | null {
  const piece = useBench((b) => b.id);
  const revision = useBench((b) => b.revision);
  const [found, setFound] = useState<{ row: RowKey; revision: number; graph: GraphOf } | null>(null);
  useEffect(() => {
    let wanted = true;
    const [layer, property] = rowOf(row);
    api
      .graph(piece, { layer, property })
      .then((graph) => wanted && setFound({ row, revision, graph }))
      .catch(() => wanted && setFound(null));
    return () => {
      wanted = false;
    };
  }, [piece, revision, row]);
  return useMemo(() => {
    if (found?.row !== row || found.revision !== revision || !found.graph.points.length) return null;
    const { points, low, high, fastest } = found.graph;
    return {
      ...{ low, high, fastest },
      points: points.map(([t, value]): [number, number] => [t, value]),
      speeds: points.map(([t, , speed]): [number, number] => [t, speed]),
    };
  }, [found, row, revision]);
}

function Lines({ drawn, scale, height }: { drawn: Drawn; scale: Scale; height: number }) {
  const span = Math.max(drawn.high - drawn.low, 1e-9);
  const y = (value: number) => height - PAD - ((value - drawn.low) / span) * (height - 2 * PAD);
  const middle = height / 2;
  const speedY = (speed: number) => middle - (speed / Math.max(drawn.fastest, 1e-9)) * (middle - PAD);
  const path = (points: readonly [number, number][], yOf: (value: number) => number) =>
    points.map(([t, v], i) => `${i ? 'L' : 'M'}${scale.x(t).toFixed(1)} ${yOf(v).toFixed(1)}`).join('');
  return (
    <>
      <line {...line('grid')} x1={0} x2={scale.width} y1={middle} y2={middle} />
      <path {...line('brass', 1.2)} d={path(drawn.speeds, speedY)} />
      <path {...line('glass', 2)} d={path(drawn.points, y)} />
    </>
  );
}
