/* What the server answers, beside the document itself. */
import type { Ellipse, Group, Path, Piece, Rectangle, Text, Transition } from './generated/piece';

export type { Piece, Transition };
export type Layer = Group | Rectangle | Ellipse | Path | Text;
export type Value = number | string;
/** Every property of a layer, resolved. */
export type Look = Record<string, Value>;
export type Pose = Record<string, Look>;

export interface Segment {
  kind: 'hold' | 'travel';
  from: string;
  to: string;
  start_ms: number;
  end_ms: number;
}

export interface Run {
  lead_in_ms: number;
  loop_ms: number | null;
  total_ms: number;
  final_state: string;
  segments: Segment[];
  /** The transition that each segment belongs to. */
  transitions: string[];
}

export interface Seam {
  distance_px: number;
  colour: number;
  layer: string | null;
}

export interface SpringReading {
  settling_ms: number;
  peak: number;
  peak_ms: number | null;
  overshoot: number;
}

/** One timing: how long it takes, and its curve as points (time 0–1, progress). */
export interface TimingReading {
  own_ms: number;
  curve: [number, number][];
  spring: SpringReading | null;
}

export interface TransitionReading extends TimingReading {
  /** With all lanes. */
  length_ms: number;
  /** layer, property, start and end in ms inside the transition */
  moves: [string, string, number, number][];
  /** For each lane of the document, null where it has the timing of the transition. */
  lanes: (TimingReading | null)[];
}

export interface PackedTape {
  /** layer, property, number of knots, numbers per knot */
  tracks: [string, string, number, number][];
  /** base64 of little-endian Float32: for each track its times, then its rows */
  data: string;
}

export interface Computed {
  poses: Record<string, Pose>;
  run: Run;
  seam: Seam | null;
  transitions: Record<string, TransitionReading & { tape: PackedTape }>;
}

export interface Head {
  id: string;
  revision: number;
  undo: string | null;
  redo: string | null;
}

export type WholeAnswer = Head & Computed & { document: Piece };
export type Operation =
  | { op: 'add' | 'replace' | 'test'; path: string; value: unknown }
  | { op: 'remove'; path: string }
  | { op: 'move' | 'copy'; from: string; path: string };
export type ChangeAnswer = Head & Computed & { patch: Operation[] };

export interface Fault {
  kind: string;
  message: string;
  place: string;
  value: unknown;
  remedy: string;
  revision?: number;
  changes?: { label: string; patch: Operation[] }[];
}
