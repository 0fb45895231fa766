/* Equal gaps: where what is moved would lie as far from its neighbours as these from each other. Pure. */
import type { Point } from '../../../shared/geometry/matrix';
import type { Box } from '../edits';

/** From edge to edge, along one axis, drawn at a place of the other. */
export interface Gap {
  axis: Axis;
  from: number;
  to: number;
  across: number;
}

export type Axis = 0 | 1;

const lowOf = (box: Box, axis: Axis) => (axis ? box.top : box.left);
const highOf = (box: Box, axis: Axis) => (axis ? box.bottom : box.right);

/** Less is no gap, px. */
const LEAST = 0.5;

/** A ground on which it lies. */
const holds = (box: Box, own: Box) =>
  box.left <= own.left && box.right >= own.right && box.top <= own.top && box.bottom >= own.bottom;

/** The nearest way to lie at equal gaps, and these gaps; `own` is the box before it goes `by` so far. */
export function equalGaps(
  boxes: readonly Box[],
  own: Box,
  axis: Axis,
  by: Point,
  reach: number,
): { by: number; gaps: Gap[] } | null {
  const across: Axis = axis ? 0 : 1;
  const [near, far] = [lowOf(own, across) + by[across], highOf(own, across) + by[across]];
  const row = boxes
    .filter((box) => lowOf(box, across) < far && highOf(box, across) > near && !holds(box, own))
    .sort((a, b) => lowOf(a, axis) - lowOf(b, axis));
  const [low, high] = [lowOf(own, axis), highOf(own, axis)];
  const gap = (from: number, to: number): Gap => ({ axis, from, to, across: (near + far) / 2 });
  let best: { by: number; gaps: Gap[]; off: number } | null = null;
  const offer = (goal: number, gaps: readonly Gap[]) => {
    const off = Math.abs(goal - by[axis]);
    if (off <= reach && (!best || off < best.off)) best = { by: goal, gaps: [...gaps], off };
  };
  row.slice(1).forEach((after, index) => {
    const before = row[index];
    if (!before) return;
    const [end, begin] = [highOf(before, axis), lowOf(after, axis)];
    const wide = begin - end;
    if (wide < LEAST) return;
    const right = highOf(after, axis);
    offer(right + wide - low, [gap(end, begin), gap(right, right + wide)]);
    const left = lowOf(before, axis);
    offer(left - wide - high, [gap(left - wide, left), gap(end, begin)]);
    const room = (wide - (high - low)) / 2;
    if (room >= LEAST) offer(end + room - low, [gap(end, end + room), gap(begin - room, begin)]);
  });
  return best;
}
