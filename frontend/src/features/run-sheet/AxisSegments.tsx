import { area } from '../../shared/drawing/paint';
import type { Run, Segment, State } from '../../api/contract';
import { useBench } from '../workbench';
import { beginsState, wayAfter } from './model';
import type { Scale } from './Sheet';

interface Props {
  run: Run;
  scale: Scale;
  states: readonly State[];
}

/** Rests and ways of the run on its axis, and the name of each state where it begins. */
export function AxisSegments({ run, scale, states }: Props) {
  const name = (id: string) => states.find((state) => state.id === id)?.name ?? id;
  return (
    <>
      {run.segments.map((segment, i) =>
        segment.kind === 'hold' ? (
          <Rest key={i} segment={segment} scale={scale} way={wayAfter(run, i)} />
        ) : (
          <Travel key={i} segment={segment} scale={scale} way={run.transitions[i] ?? null} />
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
  way: string | null;
}

/** Chosen with its transition; the end of it is pulled. */
function Rest({ segment, scale, way }: Stretch) {
  const [from, to] = [scale.x(segment.start_ms), scale.x(segment.end_ms)];
  const long = Math.round(scale.ms(to) - scale.ms(from));
  const isPulled = long !== segment.end_ms - segment.start_ms;
  return (
    <g data-way={way}>
      <rect {...area('brass')} x={from} y={54} width={Math.max(to - from, 0)} height={3} />
      <rect className="segment" x={from} y={46} width={Math.max(to - from, 1)} height={19}>
        <title>{`at rest ${long} ms${way ? ': click for its transition, pull its end' : ''}`}</title>
      </rect>
      {way && <rect className="segment-end" data-rest={way} x={to - 4} y={46} width={8} height={19} />}
      {isPulled && (
        <text className="figure halo" style={{ fill: 'var(--ink)' }} textAnchor="end" x={to - 6} y={48}>
          {long} ms
        </text>
      )}
    </g>
  );
}

function Travel({ segment, scale, way }: Stretch) {
  const [from, to] = [scale.x(segment.start_ms), scale.x(segment.end_ms)];
  const chosen = useBench((b) => way !== null && b.transition === way);
  return (
    <g data-way={way}>
      <rect
        {...area(chosen ? 'ink' : 'glass')}
        className="segment-body"
        x={from}
        y={48}
        width={Math.max(to - from, 1)}
        height={15}
      >
        <title>Click for its timing, and to play it alone</title>
      </rect>
      {to - from > 30 && (
        <text className="figure" textAnchor="middle" style={{ fill: '#fff' }} x={(from + to) / 2} y={59}>
          {segment.end_ms - segment.start_ms}
        </text>
      )}
    </g>
  );
}
