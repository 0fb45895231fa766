import type { KeyboardEvent, MouseEvent, PointerEvent } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import { known } from '../../../shared/known';
import { useHeld } from '../../../shared/ui/useHeld';
import { show } from '../../../shared/text/sums';
import { roomOf, type Key } from '../edits';
import { PeriodMark } from './PeriodMark';

/** px: the length of the axis, the height of its line, and that of what stands over it. */
const [W, H, BASE] = [244, 60, 46];
/** px within which a key snaps. */
const REACH = 4;

interface Props {
  label: string;
  keys: readonly Key[];
  /** ms */
  period: number;
  /** How much of the period has passed as the piece starts, ms; null where scrolling moves it. */
  ahead: number | null;
  /** (ms, 0–1) of what is played; none for colours. */
  curve: readonly (readonly [number, number])[];
  /** Keys of others, ms, to which one that is pulled snaps. */
  beside: readonly number[];
  chosen: number;
  choose: (key: number) => void;
  move: (key: number, at_ms: number) => Promise<void>;
  nudge: (key: number, by_ms: number) => void;
  add: (at_ms: number) => void;
  remove: (key: number) => void;
}

/** One period from left to right, with its keys: pulled, moved by arrow keys, added by a double click. */
export function KeyAxis({ label, keys, period, ahead, curve, beside, chosen, choose, ...does }: Props) {
  const { shown, take, pull, letGo, msOf } = useKeyPull(keys, period, beside, does.move);
  const x = (ms: number) => (ms / period) * W;
  return (
    <div className="key-axis">
      <svg
        width={W + 16}
        height={H}
        viewBox={`-8 0 ${W + 16} ${H}`}
        role="group"
        aria-label={`Keys of ${label}`}
        onDoubleClick={(event) => does.add(Math.min(Math.max(Math.round(msOf(event)), 1), period))}
        onPointerMove={pull}
        onPointerUp={letGo}
      >
        <Ground curve={curve} x={x} />
        {keys.map((key, k) => (
          <KeyGrip
            key={k}
            label={`Key ${k + 1} of ${label}`}
            at={shown?.k === k ? shown.at : key.at_ms}
            {...{ k, x, period, take, nudge: does.nudge, remove: does.remove }}
            chosen={k === chosen}
            choose={() => choose(k)}
          />
        ))}
      </svg>
      {ahead !== null && <PeriodMark period={period} ahead={ahead} width={W} />}
      <p className="key-ends">
        <span>0</span>
        {shown && <b>{show(shown.at)} ms</b>}
        <span>{period} ms</span>
      </p>
    </div>
  );
}

/** Quarters of the period, and what is played. */
function Ground({ curve, x }: Pick<Props, 'curve'> & { x: (ms: number) => number }) {
  const points = curve.map(([ms, p]) => `${x(ms).toFixed(1)},${(BASE - 6 - p * (BASE - 16)).toFixed(1)}`).join(' ');
  return (
    <>
      <rect {...line('hairline')} fill="#fff" x={0} y={4} width={W} height={BASE - 4} />
      {[0.25, 0.5, 0.75].map((share) => (
        <line key={share} {...line('grid')} x1={share * W} x2={share * W} y1={4} y2={BASE} />
      ))}
      {points && <polyline {...line('glass', 1.6)} points={points} />}
    </>
  );
}

interface GripProps extends Pick<Props, 'label' | 'period' | 'nudge' | 'remove'> {
  k: number;
  at: number;
  x: (ms: number) => number;
  chosen: boolean;
  choose: () => void;
  take: (event: PointerEvent, k: number) => void;
}

function KeyGrip({ label, k, at, x, period, chosen, choose, take, nudge, remove }: GripProps) {
  const press = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (step) nudge(k, step * (event.shiftKey ? 10 : 1));
    else if (event.key === 'Delete' || event.key === 'Backspace') remove(k);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <path
      className="key"
      {...(chosen ? area('ink', 'ink', 1.4) : area('brass', 'ink', 1.2))}
      d={`M${x(at)} ${BASE - 6}l6 6l-6 6l-6 -6z`}
      style={{ cursor: k ? 'ew-resize' : 'pointer' }}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={at}
      aria-valuemin={0}
      aria-valuemax={period}
      aria-valuetext={`${at} ms`}
      aria-current={chosen}
      onFocus={choose}
      onKeyDown={press}
      onDoubleClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => {
        choose();
        take(event, k);
      }}
    />
  );
}

/** A key in the hand: it goes between those beside it, and Escape puts it back. The first begins the period. */
function useKeyPull(keys: readonly Key[], period: number, beside: readonly number[], move: Props['move']) {
  const { shown, held, hold } = useHeld<{ k: number; at: number }>();
  const msOf = (event: PointerEvent | MouseEvent) => {
    const svg = known((event.target as Element).closest('svg'));
    return ((event.clientX - svg.getBoundingClientRect().left - 8) / W) * period;
  };
  const take = (event: PointerEvent, k: number) => {
    if (event.button !== 0 || k === 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    hold({ k, at: known(keys[k]).at_ms });
  };
  const pull = (event: PointerEvent) => {
    const now = held();
    if (!now) return;
    const ms = event.altKey ? msOf(event) : snapped(msOf(event), period, beside);
    const [least, most] = roomOf(keys, now.k, period);
    const at = Math.round(Math.min(Math.max(ms, least), most));
    if (at !== now.at) hold({ ...now, at });
  };
  const letGo = () => {
    const now = held();
    if (now && now.at !== known(keys[now.k]).at_ms) void move(now.k, now.at).finally(() => hold(null));
    else hold(null);
  };
  return { shown, take, pull, letGo, msOf };
}

/** To keys of others, and to quarters of the period. */
function snapped(ms: number, period: number, beside: readonly number[]): number {
  const near = [...beside, ...[0.25, 0.5, 0.75, 1].map((share) => share * period)]
    .map((at) => [Math.abs(at - ms), at] as const)
    .filter(([off]) => off < (REACH / W) * period)
    .sort(([a], [b]) => a - b)[0];
  return near ? near[1] : ms;
}
