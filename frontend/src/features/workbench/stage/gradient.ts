/* Where the handles of a gradient lie in a box, and what pulling them makes of it. Pure. */
import type { Gradient, Stop } from '../../../api/contract';
import type { Point } from '../../../shared/geometry/matrix';

/** The middle, what turns or widens it, or a stop by its number. */
export type Handle = 'centre' | 'reach' | number;

interface Numbers {
  angle: number;
  centre_x: number;
  centre_y: number;
  radius: number;
}

const TURN_STEP = 15;
const share = (value: number) => Math.round(value * 1000) / 1000;
const numbersOf = (gradient: Gradient): Numbers => ({
  angle: gradient.kind === 'linear' ? 180 : 0,
  centre_x: 0.5,
  centre_y: 0.5,
  radius: 0.5,
  ...gradient,
});

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
  const { angle, centre_x, centre_y, radius } = numbersOf(gradient);
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
  if (gradient.kind === 'radial') return { centre, from: centre, to: [centre[0] + radius * w, centre[1]] };
  const [dx, dy] = direction(angle);
  const arm = Math.min(w, h) * 0.4;
  return { centre, from: centre, to: [centre[0] + dx * arm, centre[1] + dy * arm] };
}

export function handlesOf(gradient: Gradient, size: Point): [Handle, Point][] {
  const { centre, from, to } = axisOf(gradient, size);
  const stops = gradient.stops.map((stop, i): [Handle, Point] => [i, stopPlace(gradient, stop.at, size)]);
  if (gradient.kind === 'linear')
    return [['reach', [to[0] + (to[0] - from[0]) * 0.12, to[1] + (to[1] - from[1]) * 0.12]], ...stops];
  return [
    ['centre', centre],
    [
      'reach',
      gradient.kind === 'conic'
        ? [centre[0] + (to[0] - centre[0]) * 1.25, centre[1] + (to[1] - centre[1]) * 1.25]
        : [to[0] + (to[0] - from[0]) * 0.12, to[1]],
    ],
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

/** The gradient with a handle pulled to a place in the box; `stepped` turns by 15°. */
export function pulled(gradient: Gradient, size: Point, handle: Handle, to: Point, stepped: boolean): Gradient {
  const { centre } = axisOf(gradient, size);
  const angle = (Math.atan2(to[0] - centre[0], centre[1] - to[1]) * 180) / Math.PI;
  const turned = (((stepped ? Math.round(angle / TURN_STEP) * TURN_STEP : Math.round(angle)) % 360) + 360) % 360;
  if (handle === 'centre')
    return { ...gradient, centre_x: share(to[0] / size[0]), centre_y: share(to[1] / size[1]) } as Gradient;
  if (handle === 'reach')
    return gradient.kind === 'radial'
      ? { ...gradient, radius: share(Math.max((to[0] - centre[0]) / 1.12 / size[0], 0.01)) }
      : { ...gradient, angle: turned };
  const [low, high] = [gradient.stops[handle - 1]?.at ?? 0, gradient.stops[handle + 1]?.at ?? 1];
  const along = alongOf(gradient, size, to);
  // Stops stay in their order.
  const at = share(Math.min(Math.max(along, low), high));
  return { ...gradient, stops: gradient.stops.map((stop, i) => (i === handle ? { ...stop, at } : stop)) } as Gradient;
}
