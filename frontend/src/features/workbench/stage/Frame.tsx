import { area, line } from '../../../shared/drawing/paint';
import type { Point } from '../../../shared/geometry/matrix';
import { show } from '../../../shared/text/sums';
import type { Gap } from './gaps';
import type { Grip } from './gestures';
import type { Guides as Met } from './snapping';
import { known } from '../../../shared/known';

const GRIPS: readonly Exclude<Grip, string>[] = [
  [-1, -1],
  [0, -1],
  [1, -1],
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
];
const CURSORS = ['ew-resize', 'nwse-resize', 'ns-resize', 'nesw-resize'];
const GRIP = area('panel', 'ink', 1.4);
/** px on the screen from the top edge to where it is turned */
const ARM = 22;

/** px on the screen between grips: a layer that is smaller keeps room inside of them, to be held itself. */
const ROOM = 30;

/** The box itself, or one around it that leaves enough room. */
function roomy([a, b, c, d]: [Point, Point, Point, Point]): [Point, Point, Point, Point] {
  const more = (from: Point, to: Point): Point => {
    const [x, y] = [to[0] - from[0], to[1] - from[1]];
    const long = Math.hypot(x, y);
    const by = long > 0 ? Math.max(ROOM - long, 0) / (2 * long) : 0;
    return [x * by, y * by];
  };
  const [u, v] = [more(a, b), more(a, d)];
  const moved = ([x, y]: Point, across: 1 | -1, down: 1 | -1): Point => [
    x + across * u[0] + down * v[0],
    y + across * u[1] + down * v[1],
  ];
  return [moved(a, -1, -1), moved(b, 1, -1), moved(c, 1, 1), moved(d, -1, 1)];
}

interface Props {
  /** Of the chosen layer's box, in px of the piece, clockwise from its top left. */
  corners: readonly Point[];
  /** The same around what a group holds, where that is elsewhere. */
  content?: readonly Point[];
  zoom: number;
  guides: Met;
  size: { width: number; height: number };
  /** Whether it can be resized and turned. */
  grips: boolean;
}

/** The box of the chosen layer, held at its corners and sides, and turned at the arm above it. */
export function Frame({ corners, content = [], zoom, guides, size, grips }: Props) {
  if (!corners.length) return null;
  const at = corners.map(([x, y]) => [x * zoom, y * zoom] as Point);
  const [a, b, c, d] = roomy(at as [Point, Point, Point, Point]);
  // Corners and sides by their place on the box.
  const placeOf = ([hx, hy]: readonly [number, number]): Point => {
    const [u, v] = [(hx + 1) / 2, (hy + 1) / 2];
    return [0, 1].map(
      (i) =>
        known(a[i]) * (1 - u) * (1 - v) + known(b[i]) * u * (1 - v) + known(c[i]) * u * v + known(d[i]) * (1 - u) * v,
    ) as Point;
  };
  const turn = Math.atan2(b[1] - a[1], b[0] - a[0]);
  const cursorOf = ([hx, hy]: readonly [number, number]) =>
    CURSORS[((Math.round((Math.atan2(hy, hx) + turn) / (Math.PI / 4)) % 4) + 4) % 4];
  const top = placeOf([0, -1]);
  const up = turn - Math.PI / 2;
  const side = (b[0] - a[0]) * (d[1] - a[1]) - (b[1] - a[1]) * (d[0] - a[0]) < 0 ? -1 : 1;
  const arm: Point = [top[0] + side * ARM * Math.cos(up), top[1] + side * ARM * Math.sin(up)];
  return (
    <svg className="chosen-frame overlay" aria-hidden="true">
      <Guides guides={guides} zoom={zoom} size={size} />
      <Content corners={content} zoom={zoom} />
      <polygon {...line('ink', 1.4)} points={at.map((p) => p.join(',')).join(' ')} />
      {grips && <line {...line('ink', 1.2)} x1={top[0]} y1={top[1]} x2={arm[0]} y2={arm[1]} />}
      {grips && (
        <circle className="grip turn" {...area('brass', 'ink', 1.4)} data-grip="turn" cx={arm[0]} cy={arm[1]} r={4} />
      )}
      {(grips ? GRIPS : []).map((grip) => {
        const [x, y] = placeOf(grip);
        const style = { cursor: cursorOf(grip) };
        return grip[0] && grip[1] ? (
          <circle
            key={grip.join()}
            className="grip"
            {...GRIP}
            data-grip={grip.join()}
            cx={x}
            cy={y}
            r={4}
            style={style}
          />
        ) : (
          <rect
            key={grip.join()}
            className="grip"
            {...GRIP}
            data-grip={grip.join()}
            x={x - 2.5}
            y={y - 2.5}
            width={5}
            height={5}
            style={style}
          />
        );
      })}
    </svg>
  );
}

function Content({ corners, zoom }: { corners: readonly Point[]; zoom: number }) {
  const points = corners.map(([x, y]) => `${x * zoom},${y * zoom}`).join(' ');
  return points && <polygon {...line('glass', 1.2)} className="content-frame" strokeDasharray="2 3" points={points} />;
}

/** What it stands level with, or below, and the gaps that are equal. */
function Guides({ guides: { x, y, gaps = [] }, zoom, size }: Pick<Props, 'guides' | 'zoom' | 'size'>) {
  return (
    <g {...line('coral')}>
      {x !== undefined && <line x1={x * zoom} x2={x * zoom} y1={0} y2={size.height * zoom} />}
      {y !== undefined && <line y1={y * zoom} y2={y * zoom} x1={0} x2={size.width * zoom} />}
      {gaps.map((gap) => (
        <EqualGap key={`${gap.axis} ${gap.from}`} {...gap} zoom={zoom} />
      ))}
    </g>
  );
}

/** From edge to edge, with its px. */
function EqualGap({ axis, from, to, across, zoom }: Gap & { zoom: number }) {
  const [a, b, c] = [from * zoom, to * zoom, across * zoom];
  const middle = (a + b) / 2;
  const text = { fontSize: 11, strokeWidth: 0, fill: 'var(--coral)' };
  return axis ? (
    <>
      <path d={`M${c - 4} ${a}h8M${c - 4} ${b}h8M${c} ${a}V${b}`} />
      <text x={c + 7} y={middle + 4} {...text}>
        {show(to - from)}
      </text>
    </>
  ) : (
    <>
      <path d={`M${a} ${c - 4}v8M${b} ${c - 4}v8M${a} ${c}H${b}`} />
      <text x={middle} y={c - 6} textAnchor="middle" {...text}>
        {show(to - from)}
      </text>
    </>
  );
}

/** Around which the layer turns and grows: pulled, the layer stays where it is. */
export function PivotGrip({ at: [x, y] }: { at: Point }) {
  return (
    <svg className="chosen-frame overlay" aria-hidden="true">
      <g className="grip" data-grip="pivot" style={{ cursor: 'move' }}>
        <circle {...area('panel', 'brass', 1.6)} cx={x} cy={y} r={6} />
        <path {...line('brass', 1.4)} d={`M${x - 9} ${y}H${x + 9}M${x} ${y - 9}V${y + 9}`} />
      </g>
    </svg>
  );
}

export const gripOf = (text: string): Grip =>
  text === 'turn' || text === 'pivot' ? text : (text.split(',').map(Number) as unknown as Grip);
