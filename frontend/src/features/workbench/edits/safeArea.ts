/* The safe area of a screen: how far in from its edges a device may cover it. */
import type { Piece } from '../../../api/contract';
import type { Box } from './arrange';
import type { Edit } from './edit';

export const SIDES = ['top', 'right', 'bottom', 'left'] as const;
export type Side = (typeof SIDES)[number];

const NONE = { top: 0, right: 0, bottom: 0, left: 0 };

export const setSafeArea = (piece: Piece, side: Side, px: number): Edit => ({
  label: `Safe area, ${side}`,
  patch: [{ op: 'add', path: '/safe_area', value: { ...NONE, ...piece.safe_area, [side]: px } }],
});

export const withoutSafeArea: Edit = {
  label: 'Remove safe area',
  patch: [{ op: 'add', path: '/safe_area', value: null }],
};

type Screen = Pick<Piece, 'width' | 'height' | 'safe_area'>;

/** What is safe of the screen, in its px; all of it where nothing is said, or where nothing would be left. */
export function safeBox(screen: Screen): Box {
  const box = insetBox(screen);
  return isSomething(box) ? box : { left: 0, top: 0, right: screen.width, bottom: screen.height };
}

/** Whether the safe area leaves something of the screen. */
export const hasRoom = (screen: Screen): boolean => isSomething(insetBox(screen));

const isSomething = (box: Box) => box.left < box.right && box.top < box.bottom;

function insetBox({ width, height, safe_area }: Screen): Box {
  const { top, right, bottom, left } = { ...NONE, ...safe_area };
  return { left, top, right: width - right, bottom: height - bottom };
}
