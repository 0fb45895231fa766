import { useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Tables } from '../../runtime/data';
import type { Session } from '../../runtime/session';
import { area, line } from '../../shared/drawing/paint';
import { known } from '../../shared/known';
import { scrubbing } from '../../shared/ui/pulling';
import { cueLabel, useBench, useSize } from '../workbench';
import type { Rehearsed } from './happenings';
import { foreseen, type Bar, type Noted } from './noted';

const NAMES_PX = 132;
const ROW_PX = 20;
const HEAD_PX = 22;
/** So long a time is shown at first; twice as long when it is over, and so on. */
const SPAN_MS = 5000;
const FRAME_MS = 1000 / 60;

interface Props {
  tables: Tables;
  store: Rehearsed;
  session: Session | null;
  listen: (shown: (t: number) => void) => () => void;
}

/** The rehearsal on an axis of time: what moves when, and what was done. A moment is shown by pressing on it. */
export function Strip({ tables, store, session, listen }: Props) {
  const { ref, size } = useSize<HTMLDivElement>();
  const planned = store((s) => s.planned);
  const live = store((s) => s.noted);
  // The list changes whenever something is noted.
  store((s) => s.list);
  const plan = useMemo(() => (planned.length ? foreseen(tables, planned) : null), [tables, planned]);
  const [passed, setPassed] = useState(SPAN_MS);
  const span = Math.max(plan?.until_ms ?? 0, passed);
  const width = Math.max(size.width - NAMES_PX - 40, 100);
  const x = (ms: number) => NAMES_PX + (ms / span) * width;
  const noted = plan?.noted ?? live;
  const rows = noted.rows(tables);
  const height = HEAD_PX + (rows.length + 2) * ROW_PX + 6;
  return (
    <section className="strip" ref={ref} aria-label="What moves when">
      <svg width={size.width} height={height} aria-hidden="true">
        <Ruler span={span} x={x} height={height} />
        <Ways noted={noted} span={span} x={x} />
        <Marks noted={noted} y={HEAD_PX + ROW_PX} x={x} />
        {rows.map(({ id, name, bars }, index) => (
          <Row key={id} name={name} bars={bars} y={HEAD_PX + (index + 2) * ROW_PX} x={x} />
        ))}
      </svg>
      {session && (
        <Now
          session={session}
          listen={listen}
          span={span}
          width={width}
          passed={(t) => setPassed((was) => (t > was ? 2 * was : was))}
        />
      )}
    </section>
  );
}

interface Drawn {
  x: (ms: number) => number;
}

function Ruler({ span, x, height }: Drawn & { span: number; height: number }) {
  const step = [500, 1000, 2000, 5000, 10_000, 30_000, 60_000].find((ms) => span / ms <= 11) ?? 300_000;
  return Array.from({ length: Math.floor(span / step) + 1 }, (_, index) => index * step).map((ms) => (
    <g key={ms}>
      <line {...line('grid')} x1={x(ms)} x2={x(ms)} y1={16} y2={height} />
      <text className="figure" x={x(ms) + 3} y={13}>
        {ms}
      </text>
    </g>
  ));
}

/** The states, thin at rest; the ways between them. */
function Ways({ noted, span, x }: Drawn & { noted: Noted; span: number }) {
  const { states, start } = useBench((b) => b.document);
  const name = (id: string) => states.find((state) => state.id === id)?.name ?? id;
  const { ways } = noted;
  const y = HEAD_PX + ROW_PX / 2;
  const rests = [{ to: start, end_ms: 0 }, ...ways].map(({ to, end_ms }, index) => {
    const until = ways[index]?.start_ms ?? span;
    const [from, px] = [Math.max(end_ms, 0), x(until) - x(Math.max(end_ms, 0))];
    return { from, until, text: px > 7 * name(to).length + 10 ? name(to) : '' };
  });
  return (
    <>
      <text className="row-name" x={14} y={y + 4}>
        states
      </text>
      {rests.map(({ from, until, text }, index) => (
        <g key={index}>
          <line {...line('brass', 3)} x1={x(from)} x2={x(until)} y1={y} y2={y} />
          <text className="named halo" x={x(from) + 6} y={y + 4}>
            {text}
          </text>
        </g>
      ))}
      {ways.map(({ from, to, start_ms, end_ms }, index) => (
        <rect
          key={index}
          {...area('glass')}
          x={x(start_ms)}
          width={Math.max(x(end_ms) - x(start_ms) - 1, 1.5)}
          y={y - 6}
          height={12}
        >
          <title>{`${name(from)} → ${name(to)}`}</title>
        </rect>
      ))}
    </>
  );
}

function Row({ name, bars, y, x }: Drawn & { name: string; bars: readonly Bar[]; y: number }) {
  return (
    <>
      <text className="row-name" x={14} y={y + ROW_PX / 2 + 4}>
        {name.length > 17 ? `${name.slice(0, 9)}…${name.slice(-7)}` : name}
        <title>{name}</title>
      </text>
      {bars.map(({ start_ms, end_ms }, index) => (
        <rect
          key={index}
          {...area('glass-wash', 'glass')}
          x={x(start_ms)}
          width={Math.max(x(end_ms) - x(start_ms), 2)}
          y={y + 5}
          height={ROW_PX - 10}
        />
      ))}
    </>
  );
}

/** What was done: full where it set something off. */
function Marks({ noted, y, x }: Drawn & { noted: Noted; y: number }) {
  return (
    <>
      <text className="row-name" x={14} y={y + ROW_PX / 2 + 4}>
        done
      </text>
      {noted.done.map(({ t_ms, what, heeded }, index) => (
        <path
          key={index}
          {...area('coral')}
          opacity={heeded ? 1 : 0.35}
          transform={`translate(${x(t_ms)} ${y + 4})`}
          d="M0 0L5 10H-5Z"
        >
          <title>{`${cueLabel(what)} at ${Math.round(t_ms)} ms`}</title>
        </path>
      ))}
    </>
  );
}

interface NowProps {
  session: Session;
  listen: Props['listen'];
  span: number;
  width: number;
  passed: (t: number) => void;
}

/** The moment on stage. Pressed, pulled, or moved by arrow keys, the rehearsal stands still there. */
function Now({ session, listen, span, width, passed }: NowProps) {
  const sheet = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const shown = (t: number) => {
      const { style } = known(head.current);
      style.transform = `translateX(${((Math.min(t, span) / span) * width).toFixed(2)}px)`;
      if (t > span) passed(t);
      if (!session.playing) known(sheet.current).setAttribute('aria-valuenow', String(Math.round(t)));
    };
    shown(session.now);
    return listen(shown);
  }, [session, listen, span, width, passed]);
  const show = (t: number) => {
    session.pause();
    session.seek(Math.min(Math.max(t, 0), span));
  };
  const scrub = (event: PointerEvent<HTMLDivElement>) =>
    show(((event.clientX - event.currentTarget.getBoundingClientRect().left) / width) * span);
  const key = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -FRAME_MS, ArrowRight: FRAME_MS, PageDown: -500, PageUp: 500 }[event.key];
    if (by === undefined && event.key !== 'Home') return;
    event.preventDefault();
    show(by === undefined ? 0 : session.now + by);
  };
  return (
    <div
      className="moments"
      ref={sheet}
      role="slider"
      tabIndex={0}
      aria-label="Moment of the rehearsal"
      aria-valuemin={0}
      aria-valuemax={Math.round(span)}
      aria-valuenow={0}
      onKeyDown={key}
      style={{ left: NAMES_PX, width }}
      {...scrubbing(scrub)}
    >
      <div className="now-line" ref={head} />
    </div>
  );
}
