/* How the bench is looked at: nothing of it belongs to the piece. */
import { create } from 'zustand';

/** What the pointer does on the pose: it chooses, draws, or takes a colour for somebody. */
export type Tool = 'choose' | 'pen' | 'line' | 'colour';
export type GhostsOf = 'before' | 'after' | 'off';
export type RowFilter = 'changes' | 'chosen' | 'all';

interface View {
  tool: Tool;
  /** The path whose points are being moved, and which of them are chosen: places in it such as `0,2`. */
  points: string | null;
  corners: readonly string[];
  ghosts: GhostsOf;
  /** Whether the way of the chosen layer is drawn. */
  path: boolean;
  /** Whether the pivot of the chosen layer can be pulled. */
  pivot: boolean;
  /** The text that is being typed on the stage. */
  text: string | null;
  rows: RowFilter;
  /** The copies whose layers have rows in the score too. */
  opened: readonly string[];
  /** Each new state comes before the chosen one. */
  backwards: boolean;
  help: boolean;
  /** Waits for a colour that is taken from the stage. */
  onColour: ((colour: string) => void) | null;
}

export const useView = create<View>(() => ({
  tool: 'choose',
  points: null,
  corners: [],
  ghosts: 'before',
  path: false,
  pivot: false,
  text: null,
  rows: 'changes',
  opened: [],
  backwards: false,
  help: false,
  onColour: null,
}));

export const look = (how: Partial<View>): void =>
  useView.setState({ ...('points' in how && how.points !== useView.getState().points && { corners: [] }), ...how });

/** Takes the next colour that is pointed at on the stage. */
export const takeColour = (onColour: (colour: string) => void): void => look({ tool: 'colour', onColour });
