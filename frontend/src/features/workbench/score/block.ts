/* The block of cells that is chosen in the score. */
import { create } from 'zustand';

/** A row of the score, and a column by its place among all columns. */
export type Place = readonly [row: number, column: number];

interface Block {
  /** Where it was begun, and where it goes to; both the same for a single cell. */
  from: Place;
  to: Place;
}

export const useBlock = create<{ block: Block | null }>(() => ({ block: null }));

export const beginBlock = (from: Place): void => useBlock.setState({ block: { from, to: from } });
export const extendBlock = (to: Place): void =>
  useBlock.setState(({ block }) => ({ block: { from: block?.from ?? to, to } }));
export const forgetBlock = (): void => useBlock.setState({ block: null });

export const isMany = ({ from, to }: Block): boolean => from[0] !== to[0] || from[1] !== to[1];

export function edgesOf({ from, to }: Block) {
  return {
    top: Math.min(from[0], to[0]),
    bottom: Math.max(from[0], to[0]),
    left: Math.min(from[1], to[1]),
    right: Math.max(from[1], to[1]),
  };
}

/** Whether a cell lies in a block of several. */
export function isIn(block: Block | null, row: number, column: number): boolean {
  if (!block || !isMany(block)) return false;
  const { top, bottom, left, right } = edgesOf(block);
  return row >= top && row <= bottom && column >= left && column <= right;
}
