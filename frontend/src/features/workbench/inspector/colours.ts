/* Colours as coordinates, and the colours of a document. Pure. */
// The spaces that CSS knows, and no more.
import 'culori/css';
import { converter, formatHex, formatHex8, parse, toGamut } from 'culori/fn';
import type { Piece } from '../../../api/contract';
import { walk } from '../tree';
import { known } from '../../../shared/known';

export type Space = 'hsl' | 'oklch';

export interface Axis {
  name: string;
  unit: string;
  /** What 1 of the space is in the numbers that people type. */
  factor: number;
  most: number;
  step: number;
}

/** Hue in degrees; all shares in percent, chroma as CSS writes it. */
export const AXES: Record<Space, readonly Axis[]> = {
  hsl: [
    { name: 'hue', unit: '°', factor: 1, most: 360, step: 1 },
    { name: 'saturation', unit: '%', factor: 100, most: 100, step: 1 },
    { name: 'lightness', unit: '%', factor: 100, most: 100, step: 1 },
  ],
  oklch: [
    { name: 'lightness', unit: '%', factor: 100, most: 100, step: 1 },
    { name: 'chroma', unit: '', factor: 1, most: 0.37, step: 0.005 },
    { name: 'hue', unit: '°', factor: 1, most: 360, step: 1 },
  ],
};
const KEYS = { hsl: ['h', 's', 'l'], oklch: ['l', 'c', 'h'] } as const;

export interface Coordinates {
  /** In the order and the units of the axes. */
  numbers: [number, number, number];
  /** 0–1 */
  alpha: number;
}

const tidy = (value: number, step: number) => Math.round(value / (step / 100)) * (step / 100);

/** Of a CSS colour; grey has no hue and gets that of `before`. None for `none` and for what is no colour. */
export function coordinatesOf(text: string, space: Space, before?: Coordinates): Coordinates | null {
  const colour = parse(text);
  if (!colour) return null;
  const found = converter(space)(colour) as unknown as Record<string, number | undefined>;
  const numbers = KEYS[space].map((key, i) => {
    const { factor, step } = known(AXES[space][i]);
    const value = found[key];
    return Number(tidy(value === undefined ? (before?.numbers[i] ?? 0) : value * factor, step).toFixed(4));
  });
  return { numbers: numbers as [number, number, number], alpha: colour.alpha ?? 1 };
}

const shownOf = toGamut('rgb', 'oklch');

/** As hex, which every hand-off can say; what screens cannot show loses chroma (CSS Color Level 4, section 13). */
export function colourText({ numbers, alpha }: Coordinates, space: Space): string {
  const parts = Object.fromEntries(
    KEYS[space].map((key, i) => [key, known(numbers[i]) / known(AXES[space][i]).factor]),
  );
  const colour = shownOf({ mode: space, ...parts, alpha } as never);
  return alpha < 1 ? formatHex8(colour) : formatHex(colour);
}

/** Stops of a CSS gradient that shows what moving along an axis does. */
export function alongAxis(at: Coordinates, space: Space, axis: number): string {
  const stops = Array.from({ length: 13 }, (_, i) => {
    const numbers = [...at.numbers] as [number, number, number];
    numbers[axis] = (known(AXES[space][axis]).most * i) / 12;
    return colourText({ numbers, alpha: 1 }, space);
  });
  return `linear-gradient(90deg, ${stops.join(', ')})`;
}

const MOST = 24;

/** The colours that the document uses, the most used first. */
export function documentColours(piece: Piece): string[] {
  const count = new Map<string, number>();
  const read = (value: unknown): void => {
    if (typeof value === 'string' && /^(#|rgb|hsl|okl)/.test(value)) count.set(value, (count.get(value) ?? 0) + 1);
    else if (Array.isArray(value)) value.forEach(read);
    else if (typeof value === 'object' && value !== null) Object.values(value).forEach(read);
  };
  for (const { layer } of walk(piece.layers ?? [])) read({ ...layer, layers: null });
  for (const state of piece.states) read(state.changes ?? {});
  read(piece.ground);
  return [...count]
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST)
    .map(([colour]) => colour);
}
