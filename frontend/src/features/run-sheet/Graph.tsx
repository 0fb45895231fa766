import { Flex } from 'antd';
import { useDeferredValue, useMemo } from 'react';
import { area, line } from '../../shared/drawing/paint';
import { show } from '../../shared/text/sums';
import { labelIn, propertyNamed, rowOf, useBench, usePlayed, type RowKey } from '../workbench';
import { lineOf, speedsOf } from './model';
import type { Scale } from './Sheet';

const H = 130;
const PAD = 12;

/** Value and speed of one row through the run, as the tape has them. */
export function Graph({ row, scale }: { row: RowKey; scale: Scale }) {
  // The bars and the loop come first.
  const { run, tape, poses } = useDeferredValue(usePlayed(({ run, tape, poses }) => ({ run, tape, poses })));
  const drawn = useMemo(() => lineOf(row, run, tape, poses), [row, run, tape, poses]);
  const [layer, property] = rowOf(row);
  const name = useBench((b) => labelIn(b, layer));
  const { label, unit } = propertyNamed(property);
  return (
    <Flex component="section" className="graph" aria-label="Graph of value and speed">
      <Flex vertical gap={3} className="graph-names" style={{ padding: '0 8px 0 14px' }}>
        <strong>
          {name} · {label}
        </strong>
        {drawn ? (
          <>
            <span style={{ color: 'var(--glass)' }}>value{unit && `, ${unit}`}</span>
            <span style={{ color: 'var(--brass-text)' }}>
              speed, at most {show(Math.round(drawn.fastest))}
              {unit} per s
            </span>
            <span className="quiet">
              {show(drawn.low)} to {show(drawn.high)}
            </span>
          </>
        ) : (
          <span className="quiet">not a number: nothing to draw</span>
        )}
      </Flex>
      <svg
        width={scale.width + 26}
        height={H}
        role="img"
        aria-label={drawn ? `From ${drawn.low} to ${drawn.high}` : 'Nothing to draw'}
      >
        <rect {...area('white', 'hairline')} width={scale.width} height={H} />
        {drawn && <Lines drawn={drawn} scale={scale} />}
      </svg>
    </Flex>
  );
}

function Lines({ drawn, scale }: { drawn: NonNullable<ReturnType<typeof lineOf>>; scale: Scale }) {
  const span = Math.max(drawn.high - drawn.low, 1e-9);
  const y = (value: number) => H - PAD - ((value - drawn.low) / span) * (H - 2 * PAD);
  const middle = H / 2;
  const speedY = (speed: number) => middle - (speed / Math.max(drawn.fastest, 1e-9)) * (middle - PAD);
  const path = (points: readonly [number, number][], yOf: (value: number) => number) =>
    points.map(([t, v], i) => `${i ? 'L' : 'M'}${scale.x(t).toFixed(1)} ${yOf(v).toFixed(1)}`).join('');
  return (
    <>
      <line {...line('grid')} x1={0} x2={scale.width} y1={middle} y2={middle} />
      <path {...line('brass', 1.2)} d={path(speedsOf(drawn.points), speedY)} />
      <path {...line('glass', 2)} d={path(drawn.points, y)} />
    </>
  );
}
