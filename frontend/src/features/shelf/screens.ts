/* What a new piece is made for: sizes by class, no products. */
import type { Piece } from '../../api/contract';

export type Size = Pick<Piece, 'width' | 'height' | 'safe_area'>;

export type Screen = 'a part of a screen' | 'a watch' | 'a phone' | 'a tablet' | 'a desktop';

export const SCREENS: Record<Screen, Size> = {
  'a part of a screen': { width: 240, height: 180 },
  'a watch': { width: 200, height: 240, safe_area: { top: 16, right: 12, bottom: 16, left: 12 } },
  'a phone': { width: 360, height: 720, safe_area: { top: 40, right: 0, bottom: 24, left: 0 } },
  'a tablet': { width: 800, height: 1100, safe_area: { top: 24, right: 0, bottom: 20, left: 0 } },
  'a desktop': { width: 1280, height: 800 },
};
