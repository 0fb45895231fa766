/* Whether a transition heeds what somebody does: `core/live/hearing.py`. */
import type { Event, Reason, Tables, Transition } from './data';

/** Said of each layer by itself; all else is heard by the groups around a layer too. */
const OF_ONE_LAYER = ['over', 'out', 'focus', 'blur', 'in-view', 'out-of-view', 'media-end'];

/** A layer with the groups around it, from the inside out; empty for one that is not there. */
export function around(tables: Tables, layer: string): string[] {
  if (tables.sections.some(({ id }) => id === layer)) return [layer];
  const found: string[] = [];
  let next: string | null = layer;
  while (next !== null) {
    const known: Tables['layers'][number] | undefined = tables.layers.find(({ id }) => id === next);
    if (!known) return [];
    found.push(known.id);
    next = known.around;
  }
  return found;
}

export function aimed(tables: Tables, transition: Transition, { cue, layer = null }: Event): boolean {
  if (OF_ONE_LAYER.includes(cue)) return transition.layer === layer;
  if (transition.layer === null) return true;
  return layer !== null && around(tables, layer).includes(transition.layer);
}

export interface Judged {
  readonly transition: Transition | null;
  readonly reason: Reason;
  readonly rest_ms: number;
}

/** The first written transition that heeds the event in a state reached so long ago; else why none does. */
export function judged(tables: Tables, event: Event, state: string, rested_ms: number): Judged {
  let reason: Reason = 'not-awaited';
  let rest_ms = 0;
  for (const transition of tables.transitions) {
    if (transition.from !== state || transition.cue !== event.cue) continue;
    if (!aimed(tables, transition, event)) {
      if (reason === 'not-awaited') reason = 'elsewhere';
    } else if (transition.cue === 'key' && transition.key !== (event.key ?? null)) {
      if (reason === 'not-awaited') reason = 'other-key';
    } else if (transition.hold_ms && rested_ms < transition.hold_ms) {
      reason = 'resting';
      rest_ms = transition.hold_ms - rested_ms;
    } else {
      return { transition, reason: 'heeded', rest_ms: 0 };
    }
  }
  return { transition: null, reason, rest_ms };
}

/** Whether this tap may become the first half of a double tap. */
export function waitsForSecond(tables: Tables, event: Event, state: string): boolean {
  const double = { ...event, cue: 'double-tap' };
  return tables.transitions.some((t) => t.from === state && t.cue === 'double-tap' && aimed(tables, t, double));
}
