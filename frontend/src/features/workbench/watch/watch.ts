/* How the loop is watched: nothing of it belongs to the piece. */
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Look } from '../../player';
import { clock } from '../bench';
import { known } from '../../../shared/known';

export const RATES: readonly (readonly [rate: number, label: string])[] = [
  [2, '2×'],
  [1, '1×'],
  [0.5, '½'],
  [0.25, '¼'],
];
export const LOOKS: readonly { value: Look; label: string }[] = [
  { value: 'loop', label: 'loop' },
  { value: 'once', label: 'once' },
  { value: 'back', label: 'back and forth' },
];
/** What pieces are seen on, by name; the first is that of the stage itself. */
export const GROUNDS: Readonly<Record<string, string>> = {
  'sea-glass': '#eaf0ec',
  paper: '#f5f2ea',
  white: '#ffffff',
  fog: '#8f9a9c',
  ink: '#15293b',
  squares: 'repeating-conic-gradient(#ffffff 0 25%, #d5dbd8 0 50%) 0 0 / 16px 16px',
};

interface Watch {
  /** CSS of what lies behind the stages. */
  ground: string;
  /** The loop as pixels of the size that the piece has, enlarged. */
  pixels: boolean;
  /** The chosen layer stays in the middle. */
  follows: boolean;
  /** The loop stage answers to whoever uses the piece. */
  uses: boolean;
  /** It is to act by itself as soon as it can. */
  acts: boolean;
  /** Frames per second by which times are counted, stepped and snapped. */
  fps: number;
}

export const useWatch = create<Watch>()(
  persist(
    (): Watch => ({
      ...{ ground: known(GROUNDS['sea-glass']), fps: 60 },
      ...{ pixels: false, follows: false, uses: false, acts: false },
    }),
    {
      name: 'keen-ripple-watch',
      partialize: ({ ground, fps }) => ({ ground, fps }),
    },
  ),
);
export const watch = (how: Partial<Watch>): void => {
  useWatch.setState(how);
};

export const LEAST_FPS = 1;
export const MOST_FPS = 240;

/** Throws for a rate that no screen or film has. */
export function setFps(fps: number): void {
  if (!Number.isInteger(fps) || fps < LEAST_FPS || fps > MOST_FPS)
    throw new Error(`Give a whole number of frames per second from ${LEAST_FPS} to ${MOST_FPS}.`);
  watch({ fps });
}

export const stepFrames = (frames: number): void => clock.step(frames, useWatch.getState().fps);

/** The one after `now`, or before it; round and round. */
function next<T>(all: readonly T[], now: T, by = 1): T {
  return known(all[(all.indexOf(now) + by + all.length) % all.length]);
}

export const nextLook = () =>
  clock.setLook(
    next(
      LOOKS.map(({ value }) => value),
      clock.look,
    ),
  );
export const nextGround = () => watch({ ground: next(Object.values(GROUNDS), useWatch.getState().ground) });
export const switchPixels = () => watch({ pixels: !useWatch.getState().pixels });
export const switchFollowing = () => watch({ follows: !useWatch.getState().follows });
export const switchUsing = () => watch({ uses: !useWatch.getState().uses });

/** Slower (1) or faster (-1), to the ends of the list and no further. */
export function changeRate(by: 1 | -1): void {
  const at = RATES.findIndex(([rate]) => rate === clock.rate);
  clock.setRate(known(RATES[Math.min(Math.max(at + by, 0), RATES.length - 1)])[0]);
}
