import equal from 'fast-deep-equal';
import { useEffect, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import type { SpringReading, SpringShape, TimingReading } from '../../../api/contract';
import { api } from '../../../api/client';
import { Limit } from './Limit';
import { useLimited } from './useLimited';
import { pulling } from '../../../shared/ui/pulling';
import { sayFault } from '../bench';
import { known } from '../../../shared/known';

interface Props {
  reading: TimingReading;
  /** From time (1 where it has settled) and progress to px of the plot, and back. */
  x: (u: number) => number;
  y: (p: number) => number;
  back: (event: PointerEvent<SVGElement>) => readonly [u: number, p: number];
  height: number;
  commit: (shape: SpringShape) => Promise<void>;
}

type Grip = 'peak' | 'settled';

interface Held {
  grip: Grip;
  shape: SpringShape;
  from: readonly [u: number, p: number];
}

/** Whole steps of a pull: a hundredth of the way, and ms; with Alt a tenth of them. */
const STEP = { overshoot: 0.01, settling_ms: 10 };
const ARROWS: Record<string, number> = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 };

const [SHORTEST_MS, MOST_OVER] = [10, 0.95];

const onGrid = (value: number, step: number) => Math.round(Math.round(value / step) * step * 1e6) / 1e6;

/** Why a spring that was asked to look so does not; empty where it does. */
function limitOf({ overshoot, settling_ms }: SpringShape): string {
  if (settling_ms < SHORTEST_MS) return `a spring takes ${SHORTEST_MS} ms at least`;
  if (overshoot > MOST_OVER) return `a spring overshoots by ${MOST_OVER * 100}% at most`;
  return overshoot < 0 ? '0% is the least overshoot' : '';
}

const within = ({ overshoot, settling_ms }: SpringShape): SpringShape => ({
  overshoot: Math.min(Math.max(overshoot, 0), MOST_OVER),
  settling_ms: Math.max(settling_ms, SHORTEST_MS),
});

/** The peak of a spring and the moment by which it has settled, pulled on its plot, with the spring as it would be. */
export function SpringGrips(props: Props) {
  const { reading, x, y, height } = props;
  const spring = known(reading.spring);
  const { shown, limit, gripProps } = useGrips(props, spring);
  const draft = useDraft(shown?.shape ?? null);
  const own_ms = Math.max(reading.own_ms, 1);
  const { overshoot, settling_ms } = shown?.shape ?? spring;
  const settledAt = x(settling_ms / own_ms);
  const peak = known((draft ?? reading).spring);
  const peakAt = peak.peak_ms === null ? 0.4 : peak.peak_ms / own_ms;
  return (
    <g>
      {draft && (
        <path
          className="draft"
          {...line('coral', 1.6)}
          d={draft.curve
            .map(([u, p], i) => `${i ? 'L' : 'M'}${x((u * draft.own_ms) / own_ms).toFixed(1)} ${y(p).toFixed(1)}`)
            .join('')}
        />
      )}
      <g className="settled-grip" {...gripProps('settled', 'Settled after, ms', settling_ms, 10_000)}>
        <rect fill="transparent" x={settledAt - 6} width={12} height={height} />
        <line {...line('coral')} x1={settledAt} x2={settledAt} y1={0} y2={height} />
        <text
          className="figure halo"
          textAnchor="end"
          style={{ fill: 'var(--coral-text)' }}
          x={settledAt - 4}
          y={height - 6}
        >
          settled {settling_ms} ms
        </text>
      </g>
      {peakAt < 1.1 && (
        <>
          <circle
            className="peak-grip"
            {...area('panel', 'ink', 1.6)}
            cx={x(peakAt)}
            cy={y(1 + overshoot)}
            r={4.5}
            {...gripProps('peak', 'Overshoot, in hundredths', Math.round(overshoot * 1000) / 10, 95)}
          />
          <text x={x(peakAt) + 8} y={y(1 + overshoot) - 7} className="figure halo" style={{ fill: 'var(--ink)' }}>
            {shown?.grip === 'peak' ? `overshoot ${(overshoot * 100).toFixed(1)}%` : peakText(peak)}
          </text>
        </>
      )}
      <Limit says={limit} />
    </g>
  );
}

const peakText = ({ peak, peak_ms }: SpringReading) =>
  peak_ms === null ? 'no overshoot' : `peak ${peak.toFixed(2)} at ${Math.round(peak_ms)} ms`;

/** Both grips, by pointer and by keys. */
function useGrips({ reading, back, commit }: Props, spring: SpringReading) {
  const { shown, held, hold, giveUp, limit, setLimit } = useLimited<Held>();
  const kept = (asked: SpringShape) => {
    setLimit(limitOf(asked));
    return within(asked);
  };
  const own_ms = Math.max(reading.own_ms, 1);
  const now: SpringShape = { overshoot: spring.overshoot, settling_ms: spring.settling_ms };
  /** Shown until it has come true, so that the next step goes on from there. */
  const reshape = (grip: Grip, shape: SpringShape) => {
    const next: Held = { grip, shape, from: [0, 0] };
    hold(next);
    void commit(shape).finally(() => held() === next && hold(null));
  };
  const release = () => {
    setLimit('');
    const after = held();
    if (after && !equal(after.shape, now)) reshape(after.grip, after.shape);
    else hold(null);
  };
  const gripProps = (grip: Grip, label: string, value: number, most: number) => ({
    tabIndex: 0,
    role: 'slider',
    'aria-label': label,
    'aria-valuenow': value,
    'aria-valuemin': 0,
    'aria-valuemax': most,
    onBlur: () => setLimit(''),
    onKeyDown: (event: KeyboardEvent) => {
      const shape = nudged(held()?.shape ?? now, grip, event);
      if (shape) reshape(grip, kept(shape));
    },
    ...pulling<SVGElement>({
      press: (event) => hold({ grip, shape: now, from: back(event) }),
      move: (event) => {
        const before = held();
        if (before) hold({ ...before, shape: kept(pulledTo(before, now, back(event), own_ms, event.altKey)) });
      },
      release,
      giveUp,
    }),
  });
  return { shown, limit, gripProps };
}

/** By hand it follows the pointer; `slow`ly, so that each tenth can be had, ten times less. */
function pulledTo(held: Held, before: SpringShape, [u, p]: readonly [number, number], own_ms: number, slow: boolean) {
  const share = slow ? 0.1 : 1;
  const [across, up] = [(u - held.from[0]) * own_ms * share, (p - held.from[1]) * share];
  return held.grip === 'peak'
    ? { ...held.shape, overshoot: onGrid(before.overshoot + up, STEP.overshoot * share) }
    : { ...held.shape, settling_ms: onGrid(before.settling_ms + across, STEP.settling_ms * share) };
}

/** After a press of an arrow key; nothing for other keys. */
function nudged({ overshoot, settling_ms }: SpringShape, grip: Grip, event: KeyboardEvent): SpringShape | null {
  const by = ARROWS[event.key];
  if (!by) return null;
  event.preventDefault();
  const size = by * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
  return grip === 'peak'
    ? { settling_ms, overshoot: onGrid(overshoot + size * STEP.overshoot, 1e-3) }
    : { overshoot, settling_ms: settling_ms + size * STEP.settling_ms };
}

/** The spring of a shape that is held, as the server computes it; while it is asked, the one before. */
function useDraft(shape: SpringShape | null): TimingReading | null {
  const [draft, setDraft] = useState<TimingReading | null>(null);
  const { overshoot, settling_ms } = shape ?? { overshoot: null, settling_ms: null };
  useEffect(() => {
    if (overshoot === null || settling_ms === null) return undefined;
    let wanted = true;
    api.spring({ overshoot, settling_ms }).then(({ reading }) => wanted && setDraft(reading), sayFault);
    return () => {
      wanted = false;
    };
  }, [overshoot, settling_ms]);
  if (shape === null && draft !== null) setDraft(null);
  return shape && draft;
}
