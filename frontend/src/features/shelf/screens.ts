/* What a new piece is made for: sizes by class, no products. */
export interface Size {
  width: number;
  height: number;
}

export type Screen = 'a part of a screen' | 'a watch' | 'a phone' | 'a tablet' | 'a desktop';

export const SCREENS: Record<Screen, Size> = {
  'a part of a screen': { width: 240, height: 180 },
  'a watch': { width: 200, height: 240 },
  'a phone': { width: 360, height: 720 },
  'a tablet': { width: 800, height: 1100 },
  'a desktop': { width: 1280, height: 800 },
};
