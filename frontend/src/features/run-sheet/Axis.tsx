import { Fragment, useSyncExternalStore, type PointerEvent } from 'react';
import { area, line } from '../../shared/drawing/paint';
import type { Run } from '../../api/contract';
import { scrubbing } from '../../shared/ui/pulling';
import { useHeld } from '../../shared/ui/useHeld';
import { clock, jumpText, useBench, useCourse, usePlayed } from '../workbench';
import { AxisSegments } from './AxisSegments';
import { inkOf, type Mark } from './findings';
import { rulerStep } from './model';
import type { Scale } from './Sheet';
import type { Hands, SegmentHands } from './useWayPull';

const H = 92;
/** The shortest part that is played alone. */
const LEAST_MS = 20;

type Part = readonly [from: number, to: number];

interface Props {
  run: Run;
  scale: Scale;
  /** The same with what a rest that is pulled moves. */
  after: Scale;
  marks: readonly Mark[];
  segments: SegmentHands;
}

/** Lead-in and loop, the ruler, and the states with the ways between them. */
export function Axis({ run, scale, after, marks, segments }: Props) {
  const states = useBench((b) => b.document.states);
  const part = useSyncExternalStore(clock.onSwitch, () => clock.plays);
  const { shown, scrub } = useScrubbing(run, scale);
  const range = shown ?? part;
  return (
    <svg className="axis" height={H} width={scale.width + 26} {...either(segments, scrub)} aria-hidden="true">
      <Brackets run={run} scale={scale} />
      {range && (
        <rect
          className="part"
          {...area('brass-wash')}
          x={scale.x(Math.min(...range))}
          width={scale.x(Math.max(...range)) - scale.x(Math.min(...range))}
          y={24}
          height={H - 24}
        />
      )}
      <Ticks run={run} scale={scale} />
      {marks.map((mark) => (
        <path
          key={mark.key}
          {...area(inkOf(mark))}
          transform={`translate(${scale.x(mark.from_ms)} 46)`}
          d="M0 0L-4.5 -8H4.5Z"
        >
          <title>{`${mark.says} at ${mark.from_ms} ms`}</title>
        </path>
      ))}
      <AxisSegments run={run} scale={after} states={states} />
    </svg>
  );
}

/** Scrubs; with Shift a part of the run is drawn, which is then played alone. */
function useScrubbing(run: Run, scale: Scale) {
  const { shown, held, hold } = useHeld<Part>();
  const scrub = (event: PointerEvent<SVGSVGElement>) => {
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
  return { shown, scrub: { ...scrubbing(scrub), onPointerUp: letGo } };
}

/** What is pressed on a segment is of that; all else moves the playhead. */
function either(first: SegmentHands, then: Hands): Hands {
  const hand = (name: keyof Hands) => (event: PointerEvent<SVGSVGElement>) =>
    (first.takes(event) ? first : then)[name]?.(event);
  return {
    onPointerDown: hand('onPointerDown'),
    onPointerMove: hand('onPointerMove'),
    onPointerUp: hand('onPointerUp'),
  };
}

function Ticks({ run, scale }: { run: Run; scale: Scale }) {
  const step = rulerStep(scale.to - scale.from, scale.width);
  const first = Math.ceil(scale.from / step);
  const last = Math.floor(Math.min(scale.to, run.total_ms) / step);
  const ticks = Array.from({ length: Math.max(last - first + 1, 0) }, (_, i) => (first + i) * step);
  return ticks.map((ms) => (
    <Fragment key={ms}>
      <line {...line('grid')} x1={scale.x(ms)} x2={scale.x(ms)} y1={38} y2={H} />
      <text className="figure" x={scale.x(ms) + 3} y={36}>
        {ms}
      </text>
    </Fragment>
  ));
}

/** What leads in, and what goes round. */
function Brackets({ run, scale }: { run: Run; scale: Scale }) {
  const seam = usePlayed((p) => p.seam);
  const from = run.loop_ms === null ? 0 : run.lead_in_ms;
  const jump = seam ? ` · seam ${jumpText(seam)}` : '';
  const ways = useCourse((c) => c.ways);
  const loop = ways ? 'transitions one after the other, each from rest' : `loop ${run.loop_ms} ms${jump}`;
  const text = run.loop_ms === null ? `plays once, ${run.total_ms} ms` : loop;
  return (
    <>
      {from > 0 && <Bracket from={scale.x(0)} to={scale.x(from)} text={`lead-in ${run.lead_in_ms} ms`} />}
      <Bracket from={scale.x(from)} to={scale.x(run.total_ms)} text={text} open={seam?.open ?? false} />
    </>
  );
}

function Bracket({ from, to, text, open = false }: { from: number; to: number; text: string; open?: boolean }) {
  const wide = to - from > text.length * 6.4 + 20;
  return (
    <g className={open ? 'open' : ''}>
      <path {...line('ink')} d={`M${from} 18V11H${to}V18`} />
      {wide && (
        <text className="named halo" textAnchor="middle" style={{ strokeWidth: 9 }} x={(from + to) / 2} y={15}>
          {text}
        </text>
      )}
      <title>{text}</title>
    </g>
  );
}
