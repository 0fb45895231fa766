import type { PointerEvent } from 'react';
import { line } from '../../../shared/drawing/paint';
import { pulling } from '../../../shared/ui/pulling';
import { useHeld } from '../../../shared/ui/useHeld';
import { attempt, useBench } from '../bench';
import { guidesOf, moveGuide, type Way } from '../edits';
import type { OverLayer } from './useHandles';

/** px on the screen between lines of a grid that are told apart. */
const FINEST = 4;
/** px on the screen that the tab of a guide reaches out of the piece. */
const TAB = 14;

interface Props {
  size: { width: number; height: number };
  zoom: number;
  pointAt: OverLayer['pointAt'];
}

/** The grid, and the guides, each with a tab to be pulled by. */
export function OwnLines({ size, zoom, pointAt }: Props) {
  const piece = useBench((b) => b.document);
  const { upright, level, grid } = guidesOf(piece);
  if (!piece.guides) return null;
  return (
    <svg className="own-lines overlay" aria-hidden="true">
      {grid !== null && grid * zoom >= FINEST && (
        <path {...line('glass', 0.5)} opacity={0.35} d={gridPath(size, grid, zoom)} />
      )}
      {(['upright', 'level'] as const).flatMap((way) =>
        (way === 'upright' ? upright : level).map((at, index) => (
          <Guide key={`${way} ${at}`} {...{ way, index, at, size, zoom, pointAt }} />
        )),
      )}
    </svg>
  );
}

function gridPath({ width, height }: Props['size'], grid: number, zoom: number): string {
  const lines = (long: number) => Array.from({ length: Math.floor(long / grid) }, (_, i) => (i + 1) * grid * zoom);
  const upright = lines(width).map((x) => `M${x} 0V${height * zoom}`);
  return [...upright, ...lines(height).map((y) => `M0 ${y}H${width * zoom}`)].join('');
}

function Guide({ way, index, at, size, zoom, pointAt }: Props & { way: Way; index: number; at: number }) {
  const { shown, held, hold } = useHeld<{ at: number; beside: number }>();
  const of = (event: PointerEvent) => pointAt(event)[way === 'upright' ? 0 : 1];
  const long = way === 'upright' ? size.width : size.height;
  const pull = pulling<SVGElement>({
    press: (event) => {
      event.stopPropagation();
      hold({ at, beside: at - of(event) });
    },
    move: (event) => {
      const beside = held()?.beside ?? 0;
      hold({ at: Math.round((of(event) + beside) * 2) / 2, beside });
    },
    release: () => {
      const pulled = held();
      if (!pulled || pulled.at === at) return hold(null);
      const there = pulled.at >= 0 && pulled.at <= long ? pulled.at : null;
      void attempt(moveGuide(useBench.getState().document, way, index, there)).finally(() => hold(null));
    },
    giveUp: () => hold(null),
  });
  const place = (shown?.at ?? at) * zoom;
  const gone = shown && (shown.at < 0 || shown.at > long);
  const d = way === 'upright' ? `M${place} 0V${size.height * zoom}` : `M0 ${place}H${size.width * zoom}`;
  const [x, y] = way === 'upright' ? [place - 5, -TAB] : [-TAB, place - 5];
  const [width, height] = way === 'upright' ? [10, TAB] : [TAB, 10];
  return (
    <g opacity={gone ? 0.3 : 1}>
      <path {...line('glass', 1)} d={d} />
      <rect className="tab" data-guide={`${way} ${index}`} {...{ x, y, width, height }} rx={2} {...pull}>
        <title>{`Guide at ${shown?.at ?? at} px: pull to move, off the piece to remove`}</title>
      </rect>
    </g>
  );
}
