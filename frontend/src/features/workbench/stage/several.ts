/* Several layers resized or turned as one, by the box around them. Pure. */
import { through, type Point } from '../../../shared/geometry/matrix';
import { round } from '../../../shared/text/sums';
import type { Dragged, Grip, Held, Keys, Part, Values } from './gestures';
import { edgeOnLine, type Lines } from './snapping';

interface Box {
  low: Point;
  high: Point;
}

export function boxAround(corners: readonly Point[]): Box {
  const of = (pick: (...values: number[]) => number): Point => [
    pick(...corners.map(([x]) => x)),
    pick(...corners.map(([, y]) => y)),
  ];
  return { low: of(Math.min), high: of(Math.max) };
}

export function severalDragged(
  held: Held,
  grip: Exclude<Grip, 'move' | 'pivot'>,
  to: Point,
  keys: Keys,
  lines: Lines,
  reach: number,
): Dragged {
  const box = boxAround(held.corners);
  if (grip === 'turn') {
    const angle = turnOf(box, held.from, to, keys.shiftKey);
    return { looks: looksOf(held, (part) => turnedAround(part, middle(box), angle)), guides: {} };
  }
  const edge: Point = [grip[0] > 0 ? box.high[0] : box.low[0], grip[1] > 0 ? box.high[1] : box.low[1]];
  const { place, guides } =
    keys.ctrlKey || keys.shiftKey ? { place: to, guides: {} } : edgeOnLine(edge, grip, held.from, to, lines, reach);
  const factors = factorsOf(box, grip, held.from, place, keys);
  const fixed = keys.altKey ? middle(box) : opposite(box, grip);
  return { looks: looksOf(held, (part) => stretched(part, fixed, factors)), guides };
}

const looksOf = ({ parts }: Held, valuesOf: (part: Part) => Values) =>
  Object.fromEntries(parts.map((part) => [part.id, valuesOf(part)]));

const middle = ({ low, high }: Box): Point => [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2];
const opposite = ({ low, high }: Box, [hx, hy]: readonly [number, number]): Point => [
  hx > 0 ? low[0] : high[0],
  hy > 0 ? low[1] : high[1],
];

const LEAST = 0.01;
const TURN_STEP = 15;

/** How many times as wide and as high; Shift makes both the same, Alt keeps the middle. */
function factorsOf(
  { low, high }: Box,
  grip: readonly [number, number],
  from: Point,
  to: Point,
  keys: Keys,
): [number, number] {
  const of = (axis: 0 | 1) => {
    const size = high[axis] - low[axis];
    if (!grip[axis] || size <= 0) return 1;
    return Math.max(1 + (grip[axis] * (keys.altKey ? 2 : 1) * (to[axis] - from[axis])) / size, LEAST);
  };
  const [across, down] = [of(0), of(1)];
  if (!keys.shiftKey) return [across, down];
  const both = grip[0] && grip[1] ? Math.max(across, down) : grip[0] ? across : down;
  return [both, both];
}

function turnOf(box: Box, from: Point, to: Point, inSteps: boolean): number {
  const [x, y] = middle(box);
  const angle = (at: Point) => (Math.atan2(at[1] - y, at[0] - x) * 180) / Math.PI;
  const by = ((((angle(to) - angle(from) + 180) % 360) + 360) % 360) - 180;
  return inSteps ? Math.round(by / TURN_STEP) * TURN_STEP : Math.round(by);
}

/** Where the layer has its pivot, in px of the piece. */
const pivotOf = ({ look, parent }: Part): Point =>
  through(parent, [
    Number(look.x) + Number(look.pivot_x) * Number(look.width),
    Number(look.y) + Number(look.pivot_y) * Number(look.height),
  ]);

/** Its place, so that the pivot of a layer of that size comes to lie there. */
function placeFor({ look, parent }: Part, pivot: Point, width: number, height: number): Values {
  const [x, y] = through(parent.inverse(), pivot);
  return { x: round(x - Number(look.pivot_x) * width), y: round(y - Number(look.pivot_y) * height) };
}

function turnedAround(part: Part, [x, y]: Point, degrees: number): Values {
  const [px, py] = pivotOf(part);
  const turn = new DOMMatrix().rotateSelf(degrees);
  const [dx, dy] = through(turn, [px - x, py - y]);
  const { look, parent } = part;
  const mirrored = parent.a * parent.d - parent.b * parent.c < 0 ? -1 : 1;
  return {
    ...placeFor(part, [x + dx, y + dy], Number(look.width), Number(look.height)),
    rotation: round(Number(look.rotation) + mirrored * degrees),
  };
}

/** A layer that is turned grows along its own axes by as much as these are stretched. */
function stretched(part: Part, [x, y]: Point, [across, down]: [number, number]): Values {
  const { look, parent, kind } = part;
  const [px, py] = pivotOf(part);
  const own = parent.multiply(new DOMMatrix().rotateSelf(Number(look.rotation)));
  const along = (dx: number, dy: number) => Math.hypot(across * dx, down * dy) / (Math.hypot(dx, dy) || 1);
  const [wider, higher] = [along(own.a, own.b), along(own.c, own.d)];
  const scaled = kind === 'group' && look.layout === 'none';
  const hundredths = (value: number) => Math.round(value * 100) / 100;
  const [width, height] = scaled
    ? [Number(look.width), Number(look.height)]
    : [hundredths(Number(look.width) * wider), hundredths(Number(look.height) * higher)];
  return {
    ...placeFor(part, [x + (px - x) * across, y + (py - y) * down], width, height),
    ...(scaled
      ? { scale_x: round(Number(look.scale_x) * wider), scale_y: round(Number(look.scale_y) * higher) }
      : { width, height }),
  };
}
