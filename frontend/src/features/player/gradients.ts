/* Gradients as CSS images. What CSS has no gradient for is a picture of SVG. */
import type { Gradient, Stop } from '../../api/contract';
import { known } from '../../shared/known';

/** The box that a gradient is laid over, and how far it goes on beyond each of its sides; px. */
export interface Around {
  width: number;
  height: number;
  by: number;
}

type Numbers = Record<'angle' | 'centre_x' | 'centre_y' | 'radius' | 'stretch' | 'focus_x' | 'focus_y', number>;
const UNSAID: Numbers = { angle: 0, centre_x: 0.5, centre_y: 0.5, radius: 0.5, stretch: 1, focus_x: 0, focus_y: 0 };
/** At the edge of its circle a focus would show nothing on one side. */
const FOCUS_AT_MOST = 0.99;

export const colour = (value: unknown) => (value === 'none' ? 'transparent' : String(value));

const percent = (share: number) => `${share * 100}%`;

export function gradientImage(given: Gradient, around?: Around): string {
  const gradient = { ...UNSAID, ...given };
  const [x, y] = (['width', 'height'] as const).map(
    (side) => (share: number) => (around ? `${share * around[side]}px` : percent(share)),
  ) as [(share: number) => string, (share: number) => string];
  const by = around ? around.by : 0;
  const centre = around
    ? `at ${gradient.centre_x * around.width + by}px ${gradient.centre_y * around.height + by}px`
    : `at ${percent(gradient.centre_x)} ${percent(gradient.centre_y)}`;
  if (gradient.kind === 'linear')
    return `linear-gradient(${gradient.angle}deg, ${along(given.stops, gradient.angle, around)})`;
  const stops = along(given.stops);
  if (gradient.kind === 'conic') return `conic-gradient(from ${gradient.angle}deg ${centre}, ${stops})`;
  if (gradient.angle % 180 || gradient.focus_x || gradient.focus_y) return picture(gradient, given.stops, around);
  return `radial-gradient(${x(gradient.radius * gradient.stretch)} ${y(gradient.radius)} ${centre}, ${stops})`;
}

/** Stops with their places; of a line that is longer than its box asks for, in px from where that line begins. */
function along(stops: readonly Stop[], angle = 0, around?: Around): string {
  if (!around) return stops.map((stop) => `${colour(stop.colour)} ${percent(stop.at)}`).join(', ');
  const turn = (angle * Math.PI) / 180;
  const reach = (more: number) =>
    Math.abs((around.width + more) * Math.sin(turn)) + Math.abs((around.height + more) * Math.cos(turn));
  const [own, whole] = [reach(0), reach(2 * around.by)];
  return stops.map((stop) => `${colour(stop.colour)} ${(whole - own) / 2 + stop.at * own}px`).join(', ');
}

/** An ellipse that leans, or has its focus beside its centre. */
function picture(gradient: Numbers, stops: readonly Stop[], around?: Around): string {
  const turn = (gradient.angle * Math.PI) / 180;
  const [across, down] = [gradient.radius * gradient.stretch, gradient.radius];
  const { width, height, by } = around ?? { width: 1, height: 1, by: 0 };
  const matrix = [
    across * Math.cos(turn) * width,
    across * Math.sin(turn) * height,
    -down * Math.sin(turn) * width,
    down * Math.cos(turn) * height,
    gradient.centre_x * width + by,
    gradient.centre_y * height + by,
  ];
  const far = Math.max(Math.hypot(gradient.focus_x, gradient.focus_y) / FOCUS_AT_MOST, 1);
  const svg =
    `<svg xmlns='http://www.w3.org/2000/svg'><radialGradient id='g' cx='0' cy='0' r='1' ` +
    `fx='${gradient.focus_x / far}' fy='${gradient.focus_y / far}' ` +
    `${around ? "gradientUnits='userSpaceOnUse' " : ''}gradientTransform='matrix(${matrix.join(' ')})'>` +
    `${premultiplied(stops)}</radialGradient><rect width='100%' height='100%' fill='url(#g)'/></svg>`;
  return `url("data:image/svg+xml,${encodeURIComponent(svg).replaceAll("'", '%27')}")`;
}

const OPAQUE = /^#[0-9a-f]{6}$/i;
const CLEAR = /^(none|transparent|#[0-9a-f]{6}00|#[0-9a-f]{3}0)$|[/,]\s*0(\.0*)?%?\)$/i;
const PARTS = 8;

/** SVG blends what is partly transparent otherwise than CSS does: colours mixed by CSS stand in between, and what is wholly
 * transparent has the colour of what it is blended with, on either side. */
function premultiplied(stops: readonly Stop[]): string {
  const written = (at: number, text: string, isClear = false) =>
    `<stop offset='${at}' style='stop-color:${escaped(colour(text))}${isClear ? ';stop-opacity:0' : ''}'/>`;
  return stops
    .slice(1)
    .map((stop, i) => {
      const before = known(stops[i]);
      const clear = [before, stop].map(({ colour: text }) => CLEAR.test(text)) as [boolean, boolean];
      if (clear[0] || clear[1]) {
        const shown = (clear[0] ? stop : before).colour;
        return written(before.at, shown, clear[0]) + written(stop.at, shown, clear[1]);
      }
      const parts = OPAQUE.test(before.colour) && OPAQUE.test(stop.colour) ? 1 : PARTS;
      const mixed = (share: number) =>
        `color-mix(in srgb,${colour(stop.colour)} ${percent(share)},${colour(before.colour)})`;
      return Array.from({ length: parts + 1 }, (_, part) => {
        const share = part / parts;
        const text = share === 0 ? before.colour : share === 1 ? stop.colour : mixed(share);
        return written(before.at + (stop.at - before.at) * share, text);
      }).join('');
    })
    .join('');
}

const escaped = (text: string) => text.replace(/[&<>'"]/g, (letter) => `&#${letter.charCodeAt(0)};`);
