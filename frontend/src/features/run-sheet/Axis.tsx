import { Fragment, useSyncExternalStore, type PointerEvent } from 'react';
import type { Run } from '../../api/contract';
import { useHeld } from '../../shared/ui/useHeld';
import { clock, jumpText, useBench, usePlayed } from '../workbench';
import { rulerStep } from './model';
import type { Mark } from './findings';
import type { Scale } from './Sheet';
import { known } from '../../shared/known';

const H = 92;
/** The shortest part that is played alone. */
const LEAST_MS = 20;

/** Lead-in and loop, the ruler, and the states with the ways between them. */
export function Axis({ run, scale, marks }: { run: Run; scale: Scale; marks: readonly Mark[] }) {
  const states = useBench((b) => b.document.states);
  const seam = usePlayed((p) => p.seam);
  const name = (id: string) => states.find((state) => state.id === id)?.name ?? id;
  const step = rulerStep(run.total_ms, scale.width);
  const ticks = Array.from({ length: Math.floor(run.total_ms / step) + 1 }, (_, i) => i * step);
  const part = useSyncExternalStore(clock.onSwitch, () => clock.plays);
  const { shown, held, hold } = useHeld<readonly [from: number, to: number]>();
  /** With Shift a part of the run is drawn, which is then played alone. */
  const scrub = (event: PointerEvent<SVGSVGElement>) => {
    if (event.buttons !== 1) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const px = event.clientX - event.currentTarget.getBoundingClientRect().left;
    const ms = Math.min(Math.max(scale.ms(px), 0), run.total_ms - 1e-3);
    const drawn = held();
    if (drawn) hold([drawn[0], ms]);
    else if (event.type === 'pointerdown' && event.shiftKey) hold([ms, ms]);
    else clock.seek(ms);
  };
  const letGo = () => {
    const drawn = held();
    if (drawn && Math.abs(drawn[1] - drawn[0]) >= LEAST_MS) clock.setPart([Math.min(...drawn), Math.max(...drawn)]);
    hold(null);
  };
  const range = shown ?? part;
  const from = run.loop_ms === null ? 0 : run.lead_in_ms;
  const text =
    run.loop_ms === null
      ? `plays once, ${run.total_ms} ms`
      : `loop ${run.loop_ms} ms${seam ? ` · seam ${jumpText(seam)}` : ''}`;
  return (
    <svg
      className="axis"
      height={H}
      width={scale.width + 26}
      onPointerDown={scrub}
      onPointerMove={scrub}
      onPointerUp={letGo}
      aria-hidden="true"
    >
      {run.loop_ms !== null && run.lead_in_ms > 0 && (
        <Bracket from={scale.x(0)} to={scale.x(from)} text={`lead-in ${run.lead_in_ms} ms`} />
      )}
      <Bracket from={scale.x(from)} to={scale.x(run.total_ms)} text={text} open={seam?.open ?? false} />
      {range && (
        <rect
          className="part"
          x={scale.x(Math.min(...range))}
          width={scale.x(Math.max(...range)) - scale.x(Math.min(...range))}
          y={24}
          height={H - 24}
        />
      )}
      {ticks.map((ms) => (
        <Fragment key={ms}>
          <line className="tick" x1={scale.x(ms)} x2={scale.x(ms)} y1={38} y2={H} />
          <text className="figure" x={scale.x(ms) + 3} y={36}>
            {ms}
          </text>
        </Fragment>
      ))}
      {marks.map(({ key, kind, from_ms, says }) => (
        <path
          key={key}
          className={`mark ${kind}`}
          transform={`translate(${scale.x(from_ms)} 46)`}
          d="M0 0L-4.5 -8H4.5Z"
        >
          <title>{`${says} at ${from_ms} ms`}</title>
        </path>
      ))}
      {run.segments.map((segment, i) => {
        const [a, b] = [scale.x(segment.start_ms), scale.x(segment.end_ms)];
        return segment.kind === 'hold' ? (
          <rect key={i} className="hold" x={a} y={54} width={Math.max(b - a, 0)} height={3}>
            <title>{`at rest ${segment.end_ms - segment.start_ms} ms`}</title>
          </rect>
        ) : (
          <g key={i}>
            <rect className="travel" x={a} y={48} width={Math.max(b - a, 1)} height={15} />
            {b - a > 30 && (
              <text className="travel-text" x={(a + b) / 2} y={59}>
                {segment.end_ms - segment.start_ms}
              </text>
            )}
          </g>
        );
      })}
      {run.segments.map((segment, i) =>
        (segment.kind === 'travel' || i === 0 || known(run.segments[i - 1]).from !== segment.from) &&
        (i === 0 || known(run.segments[i - 1]).kind === 'travel') ? (
          <g key={`s${i}`}>
            <circle className="state" cx={scale.x(segment.start_ms)} cy={55.5} r={4.5} />
            <text className="state-text" x={scale.x(segment.start_ms) - 4} y={79}>
              {name(segment.from)}
            </text>
          </g>
        ) : null,
      )}
    </svg>
  );
}

function Bracket({ from, to, text, open = false }: { from: number; to: number; text: string; open?: boolean }) {
  const wide = to - from > text.length * 6.4 + 20;
  return (
    <g className={open ? 'bracket open' : 'bracket'}>
      <path d={`M${from} 18V11H${to}V18`} />
      {wide && (
        <text x={(from + to) / 2} y={15}>
          {text}
        </text>
      )}
      <title>{text}</title>
    </g>
  );
}
