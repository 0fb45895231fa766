/* What the server answers, beside the document itself. */
import type { ConicGradient, Ellipse, Group, LinearGradient, Path, Picture, Medium, Piece, RadialGradient, Rectangle, Stop, Text, Transition } from './generated/piece';

export type { Piece, Stop, Transition };
/** What the shelf tells of a piece before it is looked at. */
export interface ShelfEntry {
  row: number;
  id: string;
  revision: number;
  name: string;
  width: number;
  height: number;
  /** null until they have been worked out; `loop_ms` also where the run ends. */
  total_ms: number | null;
  loop_ms: number | null;
  /** What is wrong with what is stored, if it is no piece. */
  fault: string | null;
}
export type Layer = Group | Rectangle | Ellipse | Path | Text | Picture | Medium;
export type Gradient = LinearGradient | RadialGradient | ConicGradient;
export interface Shadow {
  x: number;
  y: number;
  blur: number;
  spread: number;
  colour: string;
  inset: boolean;
}
/** Two values at once: `to` by its share, `from` by the rest. */
export interface Fade {
  kind: 'fade';
  from: Value;
  to: Value;
  share: number;
}
export type Value = number | string | boolean | Gradient | Fade | readonly Shadow[] | readonly number[];
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
  /** The leg that plays each segment. */
  legs: string[];
  plays: number | null;
  /** After this long everything looks as before, undercurrents too. */
  common_loop_ms: number | null;
  undercurrents: Undercurrent[];
}

/** What goes round on its own: a tape of one period. */
export interface Undercurrent {
  id: string;
  period_ms: number;
  states: string[] | null;
  tape: PackedTape;
}

/** A timing to be looked at before it is taken. */
/** An edit as the server worked it out. */
export interface Retimed {
  label: string;
  patch: Operation[];
}

/** A timing with a name, for every piece. */
export interface Preset {
  name: string;
  timing: Transition['timing'];
}

/** The timing as it stands, or that of another take; varied where it says how. */
export interface NewTake {
  name: string;
  of?: number;
  factor?: number;
  timing?: Transition['timing'];
}

/** A timing that was kept; without motion where it does not fit the piece any more, which the fault says. */
export interface Take {
  number: number;
  name: string;
  transitions: Transition[];
  computed: Computed | null;
  fault: string | null;
}

export interface Takes {
  takes: Take[];
  /** What differs: the piece as it stands first, then every take that fits. */
  table: { transition: string; cells: string[] }[];
}

/** What was found in a drawing from outside. */
export interface Artwork {
  name: string;
  width: number;
  height: number;
  layers: Layer[];
  notes: string[];
}

export interface Seam {
  /** Whether values jump by more than rounding. */
  open: boolean;
  px: number;
  colour: number;
  /** The jump of speed, px per second. */
  speed: number;
  layer: string | null;
  speed_layer: string | null;
  /** The share of pixels that look different, where values do. */
  picture: number;
}

/** A spring by what is seen of it; the overshoot as a share of the way. Mass is 1 and start speed 0 where they are not said. */
export interface SpringShape {
  mass?: number;
  velocity?: number;
  overshoot: number;
  settling_ms: number;
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
  /** Of a cross-fade: knots (ms, share of the new look). */
  fade: [number, number][] | null;
  /** For each lane of the document, null where it has the timing of the transition. */
  lanes: (TimingReading | null)[];
}

export interface PathForm {
  kind: 'path';
  commands: string;
  from: number[];
  to: number[];
}
/** What the rows of a track hold. */
export type Form =
  | { kind: 'switch' | 'fade'; values: [Value, Value] }
  | { kind: 'lengths' | 'inverse' }
  | { kind: 'shadows'; inset: boolean[] }
  | { kind: 'gradient'; gradient: Gradient['kind']; numbers: string[]; stops: number }
  | PathForm;

export interface PackedTape {
  /** layer, property, number of knots, numbers per knot, and what they hold if neither a number nor a colour */
  tracks: [string, string, number, number, Form | null][];
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
/** The run only where it is another. */
export type ChangeAnswer = Head & Omit<Computed, 'run'> & { run?: Run; patch: Operation[] };

/** What a file for others would hold, told before it is made. */
export interface HandoffReport {
  name: string;
  holds: string;
  leaves_out: string[];
  /** Why there is none; empty where there is one. */
  refused: Pick<Fault, 'message' | 'place' | 'remedy'>[];
}

export interface Fault {
  kind: string;
  message: string;
  place: string;
  value: unknown;
  remedy: string;
  revision?: number;
  changes?: { label: string; patch: Operation[] }[];
}
