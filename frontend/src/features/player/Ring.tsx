import { useCallback, useLayoutEffect, useMemo, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { Run } from '../../api/answers';
import type { Clock } from './clock';
import './ring.css';
import { arcPath, arcsOf, drawnPart, pointAt, seconds } from './ring';

interface Props {
  run: Run;
  clock: Clock;
  /** px across */
  size: number;
  /** With the time in its middle, and to be scrubbed. */
  large?: boolean;
}

/** The loop as a clock face: thin brass for holds, thick green for travel, a notch at the seam. */
export function Ring({ run, clock, size, large = false }: Props) {
  const dot = useRef<SVGCircleElement>(null);
  const label = useRef<SVGTextElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const radius = size / 2 - (large ? 8 : 4.5);
  const stroke = large ? 9 : 6;
  const arcs = useMemo(() => arcsOf(run), [run]);
  const worthSaying = useSparing();
  const { from_ms, length_ms } = drawnPart(run);
  useLayoutEffect(
    () =>
      clock.listen((moment) => {
        const [x, y] = pointAt(Math.max(moment - from_ms, 0) / length_ms, radius);
        dot.current!.setAttribute('transform', `translate(${x.toFixed(2)} ${y.toFixed(2)})`);
        if (clock.playing && !worthSaying(moment)) return;
        if (label.current) label.current.textContent = seconds(moment);
        svg.current!.setAttribute('aria-valuenow', moment.toFixed(0));
      }),
    [clock, from_ms, length_ms, radius, worthSaying],
  );

  const scrub = (event: PointerEvent<SVGSVGElement>) => {
    if (!large || event.buttons !== 1) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
    const turn = (Math.atan2(x, -y) / (2 * Math.PI) + 1) % 1;
    clock.seek(from_ms + turn * length_ms);
  };
  const nudge = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    clock.seek(Math.max(clock.moment + step * (event.shiftKey ? 100 : 10), 0));
  };

  const half = size / 2;
  return (
    <svg
      ref={svg}
      className={large ? 'ring large' : 'ring'}
      width={size}
      height={size}
      viewBox={`${-half} ${-half} ${size} ${size}`}
      role={large ? 'slider' : 'img'}
      aria-label="Moment in the loop, ms"
      aria-valuemin={0}
      aria-valuemax={run.total_ms}
      tabIndex={large ? 0 : undefined}
      onPointerDown={scrub}
      onPointerMove={scrub}
      onKeyDown={nudge}
    >
      {arcs.map((arc) => (
        <path key={arc.from} className={arc.kind} d={arcPath(arc.from, arc.to, radius, 3)} strokeWidth={arc.kind === 'travel' ? stroke : stroke / 3} />
      ))}
      <path className="notch" d={`M0 ${-radius + 1}l${-stroke / 2} ${-stroke * 0.8}h${stroke}Z`} />
      {large && (
        <>
          <text ref={label} className="now" y={0} />
          <text className="of" y={13}>
            of {seconds(run.total_ms)} s
          </text>
        </>
      )}
      <circle ref={dot} className="dot" r={large ? 5.5 : 3.4} />
    </svg>
  );
}

/** Figures that run are read ten times a second at most; more often they cost a layout of the page each frame. */
function useSparing(): (moment: number) => boolean {
  const said = useRef(-1);
  return useCallback((moment: number) => {
    const tenth = Math.floor(moment / 100);
    if (tenth === said.current) return false;
    said.current = tenth;
    return true;
  }, []);
}

/** A run that ends, as a bar with its end marked. */
export function RunBar({ run, clock, width, large = false }: Omit<Props, 'size'> & { width: number }) {
  const dot = useRef<SVGCircleElement>(null);
  const label = useRef<HTMLSpanElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const arcs = useMemo(() => arcsOf(run), [run]);
  const worthSaying = useSparing();
  const inner = width - 8;
  const length_ms = Math.max(run.total_ms, 1);
  useLayoutEffect(
    () =>
      clock.listen((moment) => {
        dot.current!.setAttribute('cx', ((moment / length_ms) * inner).toFixed(2));
        if (clock.playing && !worthSaying(moment)) return;
        if (label.current) label.current.textContent = seconds(moment);
        svg.current!.setAttribute('aria-valuenow', moment.toFixed(0));
      }),
    [clock, inner, length_ms, worthSaying],
  );
  const scrub = (event: PointerEvent<SVGSVGElement>) => {
    if (!large || event.buttons !== 1) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const box = event.currentTarget.getBoundingClientRect();
    clock.seek(Math.min(Math.max((event.clientX - box.left - 4) / inner, 0), 1) * run.total_ms);
  };
  const nudge = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    clock.seek(Math.min(Math.max(clock.moment + step * (event.shiftKey ? 100 : 10), 0), run.total_ms));
  };
  return (
    <span className={large ? 'run-bar large' : 'run-bar'}>
      {large && (
        <span className="mono">
          <span ref={label} /> <span className="quiet">of {seconds(run.total_ms)} s</span>
        </span>
      )}
      <svg
        ref={svg}
        width={width}
        height={18}
        viewBox={`-4 -9 ${width} 18`}
        role={large ? 'slider' : 'img'}
        aria-label="Moment in the run, ms"
        aria-valuemin={0}
        aria-valuemax={run.total_ms}
        tabIndex={large ? 0 : undefined}
        onPointerDown={scrub}
        onPointerMove={scrub}
        onKeyDown={nudge}
      >
        {arcs.map((arc) => {
          const thick = arc.kind === 'travel' ? 7 : 2.4;
          return (
            <rect key={arc.from} className={arc.kind} x={arc.from * inner} y={-thick / 2} width={Math.max((arc.to - arc.from) * inner - 1.5, 0.5)} height={thick} rx={1} />
          );
        })}
        <line className="end" x1={inner} x2={inner} y1={-6} y2={6} />
        <circle ref={dot} className="dot" r={3.6} />
      </svg>
    </span>
  );
}
