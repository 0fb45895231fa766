/* What the core hands to the runtime: states, cues, and the tables of all motion. See `core/live/tables.py`. */

export type Place = readonly number[];

export interface Curve {
  readonly u: readonly number[];
  readonly p: readonly number[];
  /** It only jumps: it has no speed that could be taken over. */
  readonly stands: boolean;
}

/** The two responses of a spring: what is left of a distance, and what a speed makes of it. */
export interface Spring {
  readonly t_s: readonly number[];
  readonly rest: readonly number[];
  readonly throw: readonly number[];
  readonly k: number;
  readonly drag: number;
  readonly thrown_ms: number;
}

export interface Span {
  readonly start_ms: number;
  readonly end_ms: number;
  readonly curve?: number;
  readonly spring?: number;
  readonly velocity?: number;
}

/** What differs among the states: one property of one layer, with its place in each. */
export interface Motion {
  readonly layer: string;
  readonly property: string;
  readonly form: PlaceForm | null;
  readonly tolerances: readonly number[];
  readonly low: number | null;
  readonly high: number | null;
  readonly jumps: boolean;
  /** It goes on where motion is unwanted. */
  readonly calm: boolean;
  readonly places: Readonly<Record<string, Place>>;
  /** What is shown at rest in each state, as it was written. */
  readonly rest: Readonly<Record<string, unknown>>;
}

export interface Transition {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  readonly cue: string;
  readonly layer: string | null;
  readonly key: string | null;
  /** With the cue `reaches`: the state in which the free placement `layer` stands. */
  readonly arrival: string | null;
  readonly share: number;
  readonly hold_ms: number;
  readonly rest_ms: number;
  readonly early_ms: number;
  readonly length_ms: number;
  readonly fade: { readonly length_ms: number; readonly curve: number } | null;
  readonly medium: readonly [layer: string, from: number, to: number, curve: number] | null;
  readonly spans: readonly Span[];
  /** Which span a motion has, by its number; the first if none is named. */
  readonly of: Readonly<Record<number, number>>;
}

export interface Layer {
  readonly id: string;
  readonly name: string;
  readonly around: string | null;
  readonly through: boolean;
  readonly margin: number;
  /** By what does not differ among the states. */
  readonly seen: boolean;
}

export interface Section {
  readonly id: string;
  readonly name: string;
  /** px from the top of the content. */
  readonly top: number;
  readonly height: number;
}

export interface Undercurrent {
  readonly period_ms: number;
  /** It follows the way scrolled through this section instead of time. */
  readonly section: string | null;
  readonly states: readonly string[] | null;
  readonly tracks: readonly {
    readonly layer: string;
    readonly property: string;
    readonly form: PlaceForm | null;
    readonly times: readonly number[];
    readonly rows: readonly Place[];
    /** What is shown where it does not run. */
    readonly rest: unknown;
    readonly calm: boolean;
  }[];
}

export interface Tables {
  readonly name: string;
  readonly start: string;
  readonly states: readonly { readonly id: string; readonly name: string }[];
  readonly double_tap_ms: number;
  readonly long_press_ms: number;
  /** The content, where it is longer than the piece. */
  readonly sections: readonly Section[];
  readonly layers: readonly Layer[];
  readonly motions: readonly Motion[];
  readonly transitions: readonly Transition[];
  readonly leavings: Readonly<Record<string, number>> | null;
  readonly plays: number | null;
  readonly undercurrents: readonly Undercurrent[];
  readonly voices: readonly Voice[];
  readonly curves: readonly Curve[];
  readonly springs: readonly Spring[];
}

/** A free placement: it lives on its own from when it is first seen, by tables of its own. */
export interface Voice {
  readonly copy: string;
  /** The states of the piece around it in which it is seen. */
  readonly seen_in: readonly string[];
  readonly tables: Tables;
}

interface Kind {
  readonly gradient: 'linear' | 'radial' | 'conic';
  readonly numbers: readonly string[];
  readonly stops: number;
}
export type Space = 'oklab' | 'srgb';

/** What a place shows. Numbers have no form. */
export type PlaceForm =
  | { readonly kind: 'inverse' }
  | { readonly kind: 'switch' | 'fades'; readonly values: readonly unknown[] }
  | { readonly kind: 'colour'; readonly space: Space }
  | { readonly kind: 'paint'; readonly kinds: readonly Kind[]; readonly space: Space }
  | { readonly kind: 'shadow-list'; readonly inset: readonly boolean[]; readonly space: Space }
  | { readonly kind: 'dashes' }
  | { readonly kind: 'axes'; readonly axes: readonly string[] }
  | { readonly kind: 'outline'; readonly commands: string };

/** What somebody does. */
export interface Event {
  readonly t_ms: number;
  readonly cue: string;
  readonly layer?: string | null;
  readonly key?: string | null;
  /** With `scroll`, which is no cue: px of the content above the screen. */
  readonly y?: number | null;
}

export type Reason =
  'heeded' | 'not-awaited' | 'elsewhere' | 'other-key' | 'resting' | 'unseen' | 'gone' | 'second-tap';

/** What became of an event: the transition that it set off, or why none. */
export interface Heard {
  readonly event: Event;
  readonly at_ms: number;
  readonly state: string;
  readonly transition: string | null;
  readonly reason: Reason;
  readonly rest_ms: number;
  /** The free placement whose piece heard it; null for the piece itself. */
  readonly copy: string | null;
}
