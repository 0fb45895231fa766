/* Looked up, and joined by straight lines. */
import type { Curve, Spring } from './data';

export const at = <T>(list: ArrayLike<T>, index: number): T => list[index] as T;

/** The last of rising numbers that is at most `x`; the first where all are more. */
export function below(numbers: readonly number[], x: number): number {
  let low = 0;
  let high = numbers.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (at(numbers, middle) <= x) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Where `x` lies: between which two of the numbers, and by which share. */
export function between(numbers: readonly number[], x: number): [knot: number, next: number, share: number] {
  const knot = below(numbers, x);
  const next = Math.min(knot + 1, numbers.length - 1);
  const span = at(numbers, next) - at(numbers, knot);
  return [knot, next, span > 0 ? Math.min(Math.max((x - at(numbers, knot)) / span, 0), 1) : 0];
}

const mixed = (values: readonly number[], knot: number, next: number, share: number) =>
  at(values, knot) + share * (at(values, next) - at(values, knot));

/** Progress of a curve at a share of its time. */
export const progressOf = (curve: Curve, u: number): number => mixed(curve.p, ...between(curve.u, u));

/** Over this share of its time, on both sides, the speed of a curve is measured; as the core does. */
const NUDGE = 0.01;

/** Progress per share of the time. */
export function paceOf(curve: Curve, u: number): number {
  if (curve.stands) return 0;
  const [low, high] = [Math.max(u - NUDGE, 0), Math.min(u + NUDGE, 1)];
  return (progressOf(curve, high) - progressOf(curve, low)) / (high - low);
}

/** What is left of a distance, and what a speed has made, after so many seconds. */
export function responsesOf(spring: Spring, seconds: number): [rest: number, thrown: number] {
  const place = between(spring.t_s, seconds);
  return [mixed(spring.rest, ...place), mixed(spring.throw, ...place)];
}
