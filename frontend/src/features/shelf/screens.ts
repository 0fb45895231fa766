/* What a new piece is made for: sizes by class, no products. */
import type { Piece } from '../../api/contract';

export type Size = Pick<Piece, 'width' | 'height' | 'safe_area'>;

export const SCREENS: Record<string, Size> = {
  'a part of a screen': { width: 240, height: 180 },
  'an icon': { width: 64, height: 64 },
  'a watch': { width: 200, height: 240, safe_area: { top: 16, right: 12, bottom: 16, left: 12 } },
  'a phone': { width: 360, height: 720, safe_area: { top: 40, right: 0, bottom: 24, left: 0 } },
  'a tablet': { width: 800, height: 1100, safe_area: { top: 24, right: 0, bottom: 20, left: 0 } },
  'a laptop': { width: 1440, height: 900 },
  'a desktop': { width: 1280, height: 800 },
};

/** Working pieces of ours to begin with, by their names on the server. */
export const STARTERS = {
  'dots-that-lift': 'dots that lift',
  'bar-that-fills': 'a bar that fills',
  switch: 'a switch',
  notice: 'a notice',
  'row-of-cards': 'a row of cards',
} as const;
export type Starter = keyof typeof STARTERS;
