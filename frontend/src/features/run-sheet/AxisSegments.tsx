import { area } from '../../shared/drawing/paint';
import type { Run, Segment, State } from '../../api/contract';
import { useBench } from '../workbench';
import { beginsState, fitted, wayAfter } from './model';
import type { Scale } from './Sheet';

interface Props {
  run: Run;
  scale: Scale;
  states: readonly State[];
}

/** Rests and ways of the run on its axis, and the name of each state where it begins. */
export function AxisSegments({ run, scale, states }: Props) {
  const name = (id: string) => states.find((state) => state.id === id)?.name ?? id;
  const begun = run.segments.filter((_, i) => beginsState(run.segments, i));
  return (
    <>
      {run.segments.map((segment, i) =>
        segment.kind === 'hold' ? (
          <Rest key={i} segment={segment} scale={scale} way={wayAfter(run, i)} />
        ) : (
          <Travel key={i} segment={segment} scale={scale} way={run.transitions[i] ?? null} />
        ),
      )}
      {begun.map(({ from, start_ms }, i) => {
        const x = scale.x(start_ms);
        const next = scale.x(begun[i + 1]?.start_ms ?? run.total_ms);
        return <Reached key={start_ms} name={name(from)} x={x} room={next - x} anchor="start" />;
      })}
      {run.loop_ms === null && run.segments.length > 0 && (
        <Reached name={name(run.final_state)} x={scale.x(run.total_ms)} room={Infinity} anchor="end" />
      )}
    </>
  );
}

interface ReachedProps {
  name: string;
  x: number;
  /** px up to the next one */
  room: number;
  anchor: 'start' | 'end';
}

/** Where a state is reached, or set out from. */
function Reached({ name, x, room, anchor }: ReachedProps) {
  return (
    <g>
      <circle {...area('panel', 'ink', 1.6)} cx={x} cy={55.5} r={4.5} pointerEvents="none" />
      <text className="named" textAnchor={anchor} x={anchor === 'start' ? x - 4 : x + 4} y={79}>
        {fitted(name, room)}
      </text>
      <title>{name}</title>
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
        <title>Click for its timing, and to play it alone; pull it later, or its end longer</title>
      </rect>
      {way && to - from > 0 && (
        <rect className="segment-end" data-way-end={way} x={to - 5} y={48} width={8} height={15} />
      )}
      {to - from > 30 && (
        <text className="figure" textAnchor="middle" style={{ fill: '#fff' }} x={(from + to) / 2} y={59}>
          {Math.round(scale.ms(to) - scale.ms(from))}
        </text>
      )}
    </g>
  );
}
