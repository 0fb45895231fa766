/* One property on its way, and what becomes of it when it is sent elsewhere: `core/live/interrupt.py`, by tables. */
import type { Motion as Moved, Place, Span, Tables } from './data';
import { at, paceOf, progressOf, responsesOf } from './tables';

/** A motion under way. A spring has a speed at its start, in places per second; what has no table jumps at its end. */
export interface Motion {
  readonly of: Moved;
  readonly start_ms: number;
  readonly end_ms: number;
  readonly span: Span;
  readonly start: Place;
  readonly goal: Place;
  readonly speed: Place | null;
  /** What CSS Transitions remembers of it: where it came from, and by how much it was shortened. */
  readonly sentBackTo: Place;
  readonly factor: number;
}

const same = (a: Place, b: Place) => a === b || (a.length === b.length && a.every((x, i) => x === b[i]));
const isStill = (m: Motion) => m.span.curve === undefined && m.span.spring === undefined;

/** What was looked up last: most motions of a transition share their span, and ask at the same moment. */
const known = { span: null as Span | null, start_ms: 0, end_ms: 0, t: 0, left: 1, thrown: 0 };

/** By how much of the way a motion is still at its start, and how far a speed of 1 has carried it. */
function during(tables: Tables, m: Motion, t: number): typeof known {
  const { span, start_ms, end_ms } = m;
  if (known.span === span && known.start_ms === start_ms && known.end_ms === end_ms && known.t === t) return known;
  known.span = span;
  known.start_ms = start_ms;
  known.end_ms = end_ms;
  known.t = t;
  if (span.spring === undefined) {
    known.left = 1 - progress(tables, m, t);
    known.thrown = 0;
  } else {
    [known.left, known.thrown] = responsesOf(at(tables.springs, span.spring), (t - start_ms) / 1000);
  }
  return known;
}

function progress(tables: Tables, m: Motion, t: number): number {
  if (t >= m.end_ms) return 1;
  const { curve } = m.span;
  if (curve === undefined || t < m.start_ms) return 0;
  return progressOf(at(tables.curves, curve), (t - m.start_ms) / (m.end_ms - m.start_ms));
}

/** Where a motion is at a moment, as it is shown. */
export function placeOf(tables: Tables, m: Motion, t: number): Place {
  if (t >= m.end_ms) return m.goal;
  if (t < m.start_ms || isStill(m)) return m.start;
  const { start, goal, speed, of } = m;
  const { left, thrown } = during(tables, m, t);
  const low = of.low ?? -Infinity;
  const high = of.high ?? Infinity;
  // This is asked of everything that moves in every frame: a plain loop, without a function for each number.
  const place = start.slice();
  for (let i = 0; i < place.length; i++) {
    // So that it is exactly where it began while nothing has been left of the way.
    const x = at(start, i) * left + at(goal, i) * (1 - left) + (speed ? at(speed, i) * thrown : 0);
    place[i] = x < low ? low : x > high ? high : x;
  }
  return place;
}

/** How fast it is, in places per second; nothing where it waits, and where it jumps. */
function speedOf(tables: Tables, m: Motion, t: number): Place {
  if (isStill(m) || t < m.start_ms || t >= m.end_ms) return m.goal.map(() => 0);
  if (m.span.spring === undefined) {
    const length = m.end_ms - m.start_ms;
    const pace = (paceOf(at(tables.curves, m.span.curve ?? 0), (t - m.start_ms) / length) * 1000) / length;
    return m.goal.map((goal, i) => (goal - at(m.start, i)) * pace);
  }
  const spring = at(tables.springs, m.span.spring);
  const [rest, thrown] = responsesOf(spring, (t - m.start_ms) / 1000);
  return m.goal.map(
    (goal, i) =>
      (at(m.start, i) - goal) * -spring.k * thrown + (m.speed ? at(m.speed, i) : 0) * (rest - spring.drag * thrown),
  );
}

/** The speed that a spring takes over; none where it is so slow that it would not be seen. */
function keptSpeed(tables: Tables, running: Motion | null, now: number, span: Span): Place | null {
  if (!running || span.spring === undefined || span.start_ms) return null;
  const frequency = Math.sqrt(at(tables.springs, span.spring).k);
  const speed = speedOf(tables, running, now);
  return speed.some((v, i) => Math.abs(v) / frequency > at(running.of.tolerances, i)) ? speed : null;
}

/** The motion of a property that is shown at a place and is to go to its goal; none where it just stands there. */
export function sent(
  tables: Tables,
  of: Moved,
  now: number,
  shown: Place,
  goal: Place,
  span: Span,
  running: Motion | null,
): Motion | null {
  if (running && same(running.goal, goal)) return running;
  const speed = keptSpeed(tables, running, now, span);
  if (!speed && same(shown, goal)) return null;
  const [start_ms, end_ms] = [now + span.start_ms, now + span.end_ms];
  const motion = { of, start_ms, end_ms, span, start: shown, goal, speed: null, sentBackTo: shown, factor: 1 };
  if (of.jumps) return { ...motion, end_ms: start_ms, span: { start_ms: 0, end_ms: 0 } };
  if (span.spring !== undefined) {
    if (speed) return { ...motion, speed, end_ms: start_ms + at(tables.springs, span.spring).thrown_ms };
    return { ...motion, speed: goal.map((x, i) => (x - at(shown, i)) * (span.velocity ?? 0)) };
  }
  if (span.curve !== undefined && running?.span.curve !== undefined && same(goal, running.sentBackTo)) {
    const done = progress(tables, running, now) * running.factor + 1 - running.factor;
    const factor = Math.min(Math.max(Math.abs(done), 0), 1);
    const length = (span.end_ms - span.start_ms) * factor;
    return { ...motion, end_ms: start_ms + length, sentBackTo: running.goal, factor };
  }
  return motion;
}
