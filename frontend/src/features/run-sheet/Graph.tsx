import { useDeferredValue, useMemo } from 'react';
import { show } from '../../shared/text/sums';
import { labelOf, propertyNamed, rowOf, useBench, usePlayed, type RowKey } from '../workbench';
import { lineOf, speedsOf } from './model';
import type { Scale } from './Sheet';

const H = 130;
const PAD = 12;

/** Value and speed of one row through the run, as the tape has them. */
export function Graph({ row, scale }: { row: RowKey; scale: Scale }) {
  // The bars and the loop come first.
  const { run, tape, poses } = useDeferredValue(usePlayed(({ run, tape, poses }) => ({ run, tape, poses })));
  const piece = useBench((b) => b.document);
  const line = useMemo(() => lineOf(row, run, tape, poses), [row, run, tape, poses]);
  const [layer, property] = rowOf(row);
  const { label, unit } = propertyNamed(property);
  return (
    <section className="graph" aria-label="Graph of value and speed">
      <div className="graph-names">
        <strong>
          {labelOf(piece, layer)} · {label}
        </strong>
        {line ? (
          <>
            <span className="value">value{unit && `, ${unit}`}</span>
            <span className="speed">
              speed, at most {show(Math.round(line.fastest))}
              {unit} per s
            </span>
            <span className="quiet">
              {show(line.low)} to {show(line.high)}
            </span>
          </>
        ) : (
          <span className="quiet">not a number: nothing to draw</span>
        )}
      </div>
      <svg
        width={scale.width + 26}
        height={H}
        role="img"
        aria-label={line ? `From ${line.low} to ${line.high}` : 'Nothing to draw'}
      >
        <rect width={scale.width} height={H} />
        {line && <Lines line={line} scale={scale} />}
      </svg>
    </section>
  );
}

function Lines({ line, scale }: { line: NonNullable<ReturnType<typeof lineOf>>; scale: Scale }) {
  const span = Math.max(line.high - line.low, 1e-9);
  const y = (value: number) => H - PAD - ((value - line.low) / span) * (H - 2 * PAD);
  const middle = H / 2;
  const speedY = (speed: number) => middle - (speed / Math.max(line.fastest, 1e-9)) * (middle - PAD);
  const path = (points: readonly [number, number][], yOf: (value: number) => number) =>
    points.map(([t, v], i) => `${i ? 'L' : 'M'}${scale.x(t).toFixed(1)} ${yOf(v).toFixed(1)}`).join('');
  return (
    <>
      <line className="grid" x1={0} x2={scale.width} y1={middle} y2={middle} />
      <path className="speed" d={path(speedsOf(line.points), speedY)} />
      <path className="value" d={path(line.points, y)} />
    </>
  );
}
