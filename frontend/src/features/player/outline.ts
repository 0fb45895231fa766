/* Outlines of boxes as SVG path data, for strokes that CSS has no box for, and for masks. */
import type { Look } from '../../api/contract';
import { textOf } from '../../shared/text/values';

const CORNERS = ['radius_top_left', 'radius_top_right', 'radius_bottom_right', 'radius_bottom_left'];

/** The radii of the four corners, limited by the box as CSS does. */
function radiiOf(look: Look, width: number, height: number): number[] {
  const radii = CORNERS.map((name) => Math.max(Number(look[name] ?? 0), 0));
  const [a, b, c, d] = radii as [number, number, number, number];
  const sides: [number, number][] = [
    [width, a + b],
    [height, b + c],
    [width, c + d],
    [height, d + a],
  ];
  const factor = Math.min(1, ...sides.filter(([, sum]) => sum > 0).map(([side, sum]) => side / sum));
  return radii.map((radius) => radius * factor);
}

/** A rectangle's or an ellipse's outline, moved outwards by `by` px; from the top, clockwise. */
export function outlineOf(kind: string, look: Look, by = 0): string {
  const [w, h] = [Number(look.width), Number(look.height)];
  if (kind === 'ellipse') {
    const [rx, ry] = [Math.max(w / 2 + by, 0), Math.max(h / 2 + by, 0)];
    return `M${w / 2} ${h / 2 - ry}A${rx} ${ry} 0 0 1 ${w / 2} ${h / 2 + ry}A${rx} ${ry} 0 0 1 ${w / 2} ${h / 2 - ry}Z`;
  }
  const radii = radiiOf(look, w, h);
  // Sharp corners stay sharp; round ones keep their middle.
  const [a, b, c, d] = radii.map((radius) => (radius > 0 ? Math.max(radius + by, 0) : 0)) as [
    number,
    number,
    number,
    number,
  ];
  const [l, t, r, u] = [-by, -by, w + by, h + by];
  // A corner without a radius is no arc: an arc of no length makes browsers begin their dashes anew.
  const arc = (radius: number, x: number, y: number) => (radius > 0 ? `A${radius} ${radius} 0 0 1 ${x} ${y}` : '');
  return `M${l + a} ${t}H${r - b}${arc(b, r, t + b)}V${u - c}${arc(c, r - c, u)}H${l + d}${arc(d, l, u - d)}V${t + a}${arc(a, l + a, t)}Z`;
}

/** The outline of any shape in its own px, with the scale that brings it there. */
export function shapeOf(kind: string, look: Look): { d: string; scale: [number, number] } {
  if (kind !== 'path') return { d: outlineOf(kind, look), scale: [1, 1] };
  return {
    d: textOf(look.path),
    scale: [Number(look.width) / Number(look.view_width), Number(look.height) / Number(look.view_height)],
  };
}
