import { area } from '../../shared/drawing/paint';
import type { Run, Segment, State } from '../../api/contract';
import { beginsState } from './model';
import type { Scale } from './Sheet';

/** Rests and ways of the run on its axis, and the name of each state where it begins. */
export function AxisSegments({ run, scale, states }: { run: Run; scale: Scale; states: readonly State[] }) {
  const name = (id: string) => states.find((state) => state.id === id)?.name ?? id;
  return (
    <>
      {run.segments.map((segment, i) =>
        segment.kind === 'hold' ? (
          <Rest key={i} segment={segment} scale={scale} />
        ) : (
          <Travel key={i} segment={segment} scale={scale} />
        ),
      )}
      {run.segments.map(
        (segment, i) =>
          beginsState(run.segments, i) && (
            <Reached key={i} name={name(segment.from)} x={scale.x(segment.start_ms)} anchor="start" />
          ),
      )}
      {run.loop_ms === null && run.segments.length > 0 && (
        <Reached name={name(run.final_state)} x={scale.x(run.total_ms)} anchor="end" />
      )}
    </>
  );
}

/** Where a state is reached, or set out from. */
function Reached({ name, x, anchor }: { name: string; x: number; anchor: 'start' | 'end' }) {
  return (
    <g>
      <circle {...area('panel', 'ink', 1.6)} cx={x} cy={55.5} r={4.5} />
      <text className="named" textAnchor={anchor} x={anchor === 'start' ? x - 4 : x + 4} y={79}>
        {name}
      </text>
    </g>
  );
}

interface Stretch {
  segment: Segment;
  scale: Scale;
}

function Rest({ segment, scale }: Stretch) {
  const [from, to] = [scale.x(segment.start_ms), scale.x(segment.end_ms)];
  return (
    <rect {...area('brass')} x={from} y={54} width={Math.max(to - from, 0)} height={3}>
      <title>{`at rest ${segment.end_ms - segment.start_ms} ms`}</title>
    </rect>
  );
}

function Travel({ segment, scale }: Stretch) {
  const [from, to] = [scale.x(segment.start_ms), scale.x(segment.end_ms)];
  return (
    <g>
      <rect {...area('glass')} x={from} y={48} width={Math.max(to - from, 1)} height={15} />
      {to - from > 30 && (
        <text className="figure" textAnchor="middle" style={{ fill: '#fff' }} x={(from + to) / 2} y={59}>
          {segment.end_ms - segment.start_ms}
        </text>
      )}
    </g>
  );
}
