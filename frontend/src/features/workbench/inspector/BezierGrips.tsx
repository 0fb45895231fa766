import type { KeyboardEvent, PointerEvent } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import { stepped } from '../../../shared/ui/hands';
import { pulling } from '../../../shared/ui/pulling';
import { bezierText, handlesOf, limitOf, type Handles } from './bezier';
import { Limit } from './Limit';
import { useLimited } from './useLimited';
import { known } from '../../../shared/known';

interface Props {
  handles: Handles;
  /** From time and progress to px of the plot, and back. */
  x: (u: number) => number;
  y: (p: number) => number;
  back: (event: PointerEvent<SVGElement>) => readonly [u: number, p: number];
  commit: (easing: string) => Promise<void>;
}

const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

const curveOf = ([x1, y1, x2, y2]: Handles, x: Props['x'], y: Props['y']) =>
  `M${x(0)} ${y(0)}C${x(x1)} ${y(y1)} ${x(x2)} ${y(y2)} ${x(1)} ${y(1)}`;

/** The handles of a curve, pulled on its plot, with the curve as it would be. */
export function BezierGrips({ handles, x, y, back, commit }: Props) {
  const { shown, held, hold, giveUp, limit, setLimit } = useLimited<Handles>();
  const now = shown ?? handles;
  const [x1, y1, x2, y2] = now;
  const put = (end: 0 | 1, [u, p]: readonly [number, number], of: Handles = now): Handles => {
    setLimit(limitOf(u, p));
    const next: Handles = end === 0 ? [u, p, of[2], of[3]] : [of[0], of[1], u, p];
    return known(handlesOf(bezierText(next)));
  };
  /** Shown until it has come true, so that the next step goes on from there. */
  const bend = (after: Handles) => {
    hold(after);
    void stepped(() => commit(bezierText(after))).finally(() => held() === after && hold(null));
  };
  const letGo = () => {
    setLimit('');
    const after = held();
    if (after && bezierText(after) !== bezierText(handles)) bend(after);
    else hold(null);
  };
  const onKey = (event: KeyboardEvent, end: 0 | 1) => {
    const arrow = ARROWS[event.key];
    if (!arrow) return;
    event.preventDefault();
    const step = event.shiftKey ? 0.1 : 0.01;
    const [ax, ay, bx, by] = held() ?? handles;
    const [u, p] = end === 0 ? [ax, ay] : [bx, by];
    bend(put(end, [u + arrow[0] * step, p + arrow[1] * step], held() ?? handles));
  };
  return (
    <g>
      {shown && <path className="draft" {...line('coral', 1.6)} d={curveOf(now, x, y)} />}
      <path {...line('ink')} d={`M${x(0)} ${y(0)}L${x(x1)} ${y(y1)}M${x(1)} ${y(1)}L${x(x2)} ${y(y2)}`} />
      {([0, 1] as const).map((end) => (
        <circle
          key={end}
          {...area('panel', 'ink', 1.6)}
          r={5}
          cx={x(end === 0 ? x1 : x2)}
          cy={y(end === 0 ? y1 : y2)}
          tabIndex={0}
          role="button"
          data-handle={end}
          aria-label={`${end === 0 ? 'First' : 'Second'} handle of the curve; arrow keys move it`}
          {...pulling<SVGCircleElement>({
            press: () => hold(now),
            move: (event) => held() && hold(put(end, back(event))),
            release: letGo,
            giveUp,
          })}
          onKeyDown={(event) => onKey(event, end)}
          onBlur={() => setLimit('')}
        />
      ))}
      <Limit says={limit} />
    </g>
  );
}
