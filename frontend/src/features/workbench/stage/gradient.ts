/* Where the handles of a gradient lie in a box, and what pulling them makes of it. Pure. */
import type { Gradient, Look, Stop } from '../../../api/contract';
import type { Point } from '../../../shared/geometry/matrix';

/** The middle, what turns or widens it, what makes an ellipse of a circle, where it begins, or a stop by its number. */
export type Handle = 'centre' | 'reach' | 'across' | 'focus' | number;

interface Numbers {
  angle: number;
  centre_x: number;
  centre_y: number;
  radius: number;
  stretch: number;
  focus_x: number;
  focus_y: number;
}

const TURN_STEP = 15;
/** Beyond the edge of an ellipse, in its radii, where its grips stand clear of the last stop. */
const BEYOND = 1.12;
const share = (value: number) => Math.round(value * 1000) / 1000;
const numbersOf = (gradient: Gradient): Numbers => ({
  angle: gradient.kind === 'linear' ? 180 : 0,
  centre_x: 0.5,
  centre_y: 0.5,
  radius: 0.5,
  stretch: 1,
  focus_x: 0,
  focus_y: 0,
  ...gradient,
});

/** Where a place in the circle of radius 1 round 0 lies in the box: in an ellipse, as if the box were a square. */
function onEllipse(gradient: Gradient, [w, h]: Point, [u, v]: Point): Point {
  const { angle, centre_x, centre_y, radius, stretch } = numbersOf(gradient);
  const [x, y] = turnedBy(angle, [u * radius * stretch, v * radius]);
  return [(centre_x + x) * w, (centre_y + y) * h];
}

/** The other way round. */
function inCircle(gradient: Gradient, [w, h]: Point, [left, top]: Point): Point {
  const { angle, centre_x, centre_y, radius, stretch } = numbersOf(gradient);
  const [x, y] = turnedBy(-angle, [left / w - centre_x, top / h - centre_y]);
  return [x / Math.max(radius * stretch, 1e-4), y / Math.max(radius, 1e-4)];
}

function turnedBy(angle: number, [x, y]: Point): Point {
  const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  return [x * cos - y * sin, x * sin + y * cos];
}

/** 0° points up, and angles grow clockwise, as in CSS. */
const direction = (angle: number): Point => [Math.sin((angle * Math.PI) / 180), -Math.cos((angle * Math.PI) / 180)];

interface Axis {
  centre: Point;
  /** Where the first and the last stop lie, 0 and 1; of a conic gradient, its circle from the middle on. */
  from: Point;
  to: Point;
}

/** A line through the box (CSS Images Level 3, section 3.1.1), or from the middle outwards. */
export function axisOf(gradient: Gradient, [w, h]: Point): Axis {
  const { angle, centre_x, centre_y } = numbersOf(gradient);
  if (gradient.kind === 'linear') {
    const [dx, dy] = direction(angle);
    const half = (Math.abs(w * dx) + Math.abs(h * dy)) / 2;
    return {
      centre: [w / 2, h / 2],
      from: [w / 2 - dx * half, h / 2 - dy * half],
      to: [w / 2 + dx * half, h / 2 + dy * half],
    };
  }
  const centre: Point = [centre_x * w, centre_y * h];
  if (gradient.kind === 'radial') return { centre, from: centre, to: onEllipse(gradient, [w, h], [1, 0]) };
  const [dx, dy] = direction(angle);
  const arm = Math.min(w, h) * 0.4;
  return { centre, from: centre, to: [centre[0] + dx * arm, centre[1] + dy * arm] };
}

export function handlesOf(gradient: Gradient, size: Point): [Handle, Point][] {
  const { centre, from, to } = axisOf(gradient, size);
  const stops = gradient.stops.map((stop, i): [Handle, Point] => [i, stopPlace(gradient, stop.at, size)]);
  if (gradient.kind === 'linear')
    return [['reach', [to[0] + (to[0] - from[0]) * 0.12, to[1] + (to[1] - from[1]) * 0.12]], ...stops];
  if (gradient.kind === 'conic')
    return [
      ['centre', centre],
      ['reach', [centre[0] + (to[0] - centre[0]) * 1.25, centre[1] + (to[1] - centre[1]) * 1.25]],
      ...stops,
    ];
  const { focus_x, focus_y } = numbersOf(gradient);
  return [
    ['centre', centre],
    ['reach', onEllipse(gradient, size, [BEYOND, 0])],
    ['across', onEllipse(gradient, size, [0, BEYOND])],
    ...(focus_x || focus_y ? [['focus', onEllipse(gradient, size, [focus_x, focus_y])] as [Handle, Point]] : []),
    ...stops,
  ];
}

/** Where a stop lies in the box. */
export function stopPlace(gradient: Gradient, at: number, size: Point): Point {
  const { centre, from, to } = axisOf(gradient, size);
  if (gradient.kind !== 'conic') return [from[0] + (to[0] - from[0]) * at, from[1] + (to[1] - from[1]) * at];
  const [dx, dy] = direction(numbersOf(gradient).angle + at * 360);
  const arm = Math.hypot(to[0] - centre[0], to[1] - centre[1]);
  return [centre[0] + dx * arm, centre[1] + dy * arm];
}

/** Where along it a place in the box lies, 0 to 1 between its first and last stop, and beyond. */
export function alongOf(gradient: Gradient, size: Point, to: Point): number {
  const { centre, from, to: end } = axisOf(gradient, size);
  if (gradient.kind === 'conic') {
    const angle = (Math.atan2(to[0] - centre[0], centre[1] - to[1]) * 180) / Math.PI;
    return ((((angle - numbersOf(gradient).angle) % 360) + 360) % 360) / 360;
  }
  const way: Point = [end[0] - from[0], end[1] - from[1]];
  return ((to[0] - from[0]) * way[0] + (to[1] - from[1]) * way[1]) / Math.max(way[0] ** 2 + way[1] ** 2, 1e-9);
}

/** One stop more, of the colour that is seen there. */
export function withStop(
  gradient: Gradient,
  place: number,
  colourAt: (stops: readonly Stop[], at: number) => string,
): Gradient {
  const at = share(Math.min(Math.max(place, 0), 1));
  const { stops } = gradient;
  const before = stops.filter((stop) => stop.at <= at);
  const stop = { at, colour: colourAt(stops, at) };
  return { ...gradient, stops: [...before, stop, ...stops.slice(before.length)] } as Gradient;
}

type Radial = Extract<Gradient, { kind: 'radial' }>;

/** A circle widens by its reach; an ellipse is turned by it and made longer, and wider by the grip across. */
function shaped(gradient: Radial, size: Point, handle: string, to: Point, stepped: boolean): Radial {
  const { centre_x, centre_y, radius, stretch, angle } = numbersOf(gradient);
  if (handle === 'focus') {
    const [focus_x, focus_y] = inCircle(gradient, size, to).map(share) as Point;
    return { ...gradient, focus_x, focus_y };
  }
  const [x, y] = [to[0] / size[0] - centre_x, to[1] / size[1] - centre_y];
  const far = Math.max(Math.hypot(x, y) / BEYOND, 0.01);
  if (handle === 'across') return { ...gradient, radius: share(far), stretch: share((radius * stretch) / far) };
  if (stretch === 1) return { ...gradient, radius: share(far) };
  const lean = (Math.atan2(y, x) * 180) / Math.PI;
  const turned = stepped ? Math.round(lean / TURN_STEP) * TURN_STEP : Math.round(lean);
  return { ...gradient, stretch: share(far / Math.max(radius, 1e-3)), ...((turned || angle) && { angle: turned }) };
}

/** The gradient with a handle pulled to a place in the box; `stepped` turns by 15°. */
export function pulled(gradient: Gradient, size: Point, handle: Handle, to: Point, stepped: boolean): Gradient {
  const { centre } = axisOf(gradient, size);
  const angle = (Math.atan2(to[0] - centre[0], centre[1] - to[1]) * 180) / Math.PI;
  const turned = (((stepped ? Math.round(angle / TURN_STEP) * TURN_STEP : Math.round(angle)) % 360) + 360) % 360;
  if (handle === 'centre')
    return { ...gradient, centre_x: share(to[0] / size[0]), centre_y: share(to[1] / size[1]) } as Gradient;
  if (gradient.kind === 'radial' && typeof handle === 'string') return shaped(gradient, size, handle, to, stepped);
  if (typeof handle === 'string') return { ...gradient, angle: turned };
  const [low, high] = [gradient.stops[handle - 1]?.at ?? 0, gradient.stops[handle + 1]?.at ?? 1];
  const along = alongOf(gradient, size, to);
  // Stops stay in their order.
  const at = share(Math.min(Math.max(along, low), high));
  return { ...gradient, stops: gradient.stops.map((stop, i) => (i === handle ? { ...stop, at } : stop)) } as Gradient;
}

/** The paint of a layer that has handles: its fill, or else its stroke. */
export const gradientOf = (look: Look | undefined): 'fill' | 'stroke' | null =>
  typeof look?.fill === 'object' ? 'fill' : typeof look?.stroke === 'object' ? 'stroke' : null;
