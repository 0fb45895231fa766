/* The two handles of a cubic-bezier(), read from CSS text and written as such. Pure. */
export type Handles = readonly [x1: number, y1: number, x2: number, y2: number];

const NAMED: Record<string, Handles> = {
  linear: [0, 0, 1, 1],
  ease: [0.25, 0.1, 0.25, 1],
  'ease-in': [0.42, 0, 1, 1],
  'ease-out': [0, 0, 0.58, 1],
  'ease-in-out': [0.42, 0, 0.58, 1],
};

/** None for what is no single Bézier curve. */
export function handlesOf(easing: string): Handles | null {
  const text = easing.trim().toLowerCase();
  if (NAMED[text]) return NAMED[text];
  const numbers = /^cubic-bezier\(([^)]*)\)$/.exec(text)?.[1]?.split(',').map(Number);
  return numbers?.length === 4 && numbers.every(Number.isFinite) ? (numbers as unknown as Handles) : null;
}

/** Four numbers alone are the handles of a curve; any other text is an easing as it stands. */
export function easingOf(text: string): string {
  const numbers = text
    .trim()
    .split(/[\s,;]+/)
    .map(Number);
  return numbers.length === 4 && numbers.every(Number.isFinite) ? `cubic-bezier(${numbers.join(', ')})` : text;
}

const short = (value: number) => Math.round(value * 100) / 100;

/** Why a handle that was asked to go there goes no further; empty where it does. */
export function limitOf(u: number, p: number): string {
  if (u < 0 || u > 1) return 'a handle stays within the time of its curve';
  return p < LOWEST || p > HIGHEST ? `a handle goes from ${LOWEST} to ${HIGHEST}` : '';
}

const [LOWEST, HIGHEST] = [-1, 2];

/** Handles stay inside the time of the curve; beyond its values they may go, twice as far. */
export function bezierText([x1, y1, x2, y2]: Handles): string {
  const inside = (x: number) => short(Math.min(Math.max(x, 0), 1));
  const around = (y: number) => short(Math.min(Math.max(y, LOWEST), HIGHEST));
  return `cubic-bezier(${inside(x1)}, ${around(y1)}, ${inside(x2)}, ${around(y2)})`;
}
