/* What is on stage, moment by moment: the state that is shown or aimed at, and the motions under way. The law is
 * `core/live/stage.py`: the same events give the same pictures. */
import type { Event, Heard, Place, Reason, Tables, Transition } from './data';
import { around, judged, waitsForSecond } from './hearing';
import { placeOf, sent, type Motion } from './motion';
import { at, progressOf } from './tables';

/** More transitions at one moment than this are an endless loop. */
const MOST_AT_ONCE = 1000;

/** A look that a cross-fade leaves: the places of all motions as they were. */
export interface Fading {
  readonly start_ms: number;
  readonly length_ms: number;
  readonly curve: number;
  readonly places: readonly Place[];
}

/** A transition that began, set off by an event or by itself. */
export interface Taken {
  readonly transition: Transition;
  readonly at_ms: number;
  readonly reached_ms: number;
}

export class Stage {
  state: string;
  /** Where the state that is shown, or aimed at, was come from. */
  from: string;
  now = 0;
  began_ms = 0;
  reached_ms = 0;
  fades: Fading[] = [];
  private first = true;
  private pending: Event | null = null;
  private readonly left = new Map<string, number>();
  /** By the number of the property that moves; what has ended may stand here still. */
  motions: (Motion | null)[];

  /** Is told of every transition as it begins, and of what became of every event. */
  onTaken: (taken: Taken) => void = () => undefined;
  onHeard: (heard: Heard) => void = () => undefined;

  /** When a free placement reached a state in which it stands now; none where it does not. */
  stands: (copy: string, state: string) => number | null = () => null;
  /** Whether nothing hides a layer: where pieces live in each other, all of them have a say in that. */
  sees: (layer: string, t: number) => boolean;

  /** `origin_ms` is when its start is first shown, `copy` the free placement in which it stands. */
  constructor(
    public tables: Tables,
    readonly origin_ms = 0,
    readonly copy: string | null = null,
  ) {
    this.now = this.began_ms = this.reached_ms = origin_ms;
    this.sees = (layer, t) => this.isSeen(layer, t);
    this.state = this.from = tables.start;
    this.motions = tables.motions.map(() => null);
    this.playMedia();
  }

  /** What somebody does; everything up to then is played first. */
  hear(event: Event): void {
    const t = Math.max(event.t_ms, this.now);
    this.playUntil(t);
    if (event.cue !== 'tap') return this.heed(event, t);
    const pending = this.pending;
    this.pending = null;
    if (pending) {
      if ((pending.layer ?? null) === (event.layer ?? null)) return this.heed({ ...event, cue: 'double-tap' }, t);
      this.heed(pending, t);
    }
    if (waitsForSecond(this.tables, event, this.state) && this.isInReach(event.layer ?? null, t)) {
      this.pending = event;
      this.tell(event, t, null, 'second-tap', 0);
    } else {
      this.heed(event, t);
    }
  }

  /** Goes on with other values: what is on its way arrives where they have it. The same motions are in both. */
  use(tables: Tables): void {
    this.motions = this.motions.map((motion, index) => {
      const [of, before] = [at(tables.motions, index), at(this.tables.motions, index)];
      const goal = of.places[this.state] as Place;
      if (!motion || motion.start.length !== goal.length) return null;
      return { ...motion, of, goal: motion.goal === before.places[this.state] ? goal : motion.goal };
    });
    this.tables = tables;
  }

  /** When a tap that may become half of a double tap is heard as a single one, if there is one. */
  get due_ms(): number | null {
    return this.pending && this.pending.t_ms + this.tables.double_tap_ms;
  }

  /** Takes what starts by itself up to a moment, which belongs to it. */
  playUntil(t: number): void {
    while (this.pending) {
      const due = this.due_ms ?? t;
      if (due > t) break;
      const pending = this.pending;
      this.followUntil(due);
      this.pending = null;
      this.heed(pending, due);
    }
    this.followUntil(t);
    this.now = t;
  }

  /** Where the motion with this number is now. */
  place(index: number, t: number): Place {
    const motion = this.motions[index];
    return motion && motion.end_ms > t ? placeOf(this.tables, motion, t) : this.rest(index);
  }

  /** Whether it is on its way, or was when this was last asked for. */
  moves(index: number, t: number): boolean {
    const motion = this.motions[index];
    return !!motion && motion.end_ms > t;
  }

  /** By which share each look that was left is still seen, the oldest first; the rest is the new one's. */
  shares(t: number): number[] {
    let shares: number[] = [];
    for (const { start_ms, length_ms, curve } of this.fades) {
      const u = (t - start_ms) / length_ms;
      const share = u >= 1 ? 1 : Math.min(Math.max(progressOf(at(this.tables.curves, curve), u), 0), 1);
      const before = 1 - shares.reduce((sum, x) => sum + x, 0);
      shares = [...shares.map((x) => x * (1 - share)), before * (1 - share)];
    }
    return shares;
  }

  /** Looks that are seen no longer are let go. */
  forgetFaded(t: number): void {
    const last = this.fades.findLastIndex(({ start_ms, length_ms }) => t >= start_ms + length_ms);
    if (last >= 0) this.fades = this.fades.slice(last + 1);
  }

  /** Between which states it is: twice the same at rest. */
  between(t: number): [from: string, to: string] {
    return t < this.reached_ms ? [this.from, this.state] : [this.state, this.state];
  }

  /** Goes to a state by the first transition that leads there, or at once where none does. */
  go(state: string, t: number): void {
    this.playUntil(Math.max(t, this.now));
    const way = this.tables.transitions.find((own) => own.from === this.state && own.to === state);
    this.left.clear();
    if (way) this.take(way, this.now, false);
    else if (state !== this.state) this.take(this.cut(state), this.now, false);
  }

  private cut(to: string): Transition {
    const nothing = {
      cue: 'go',
      layer: null,
      key: null,
      arrival: null,
      share: 0,
      hold_ms: 0,
      rest_ms: 0,
      early_ms: 0,
      medium: null,
    };
    const spans = [{ start_ms: 0, end_ms: 0 }];
    return { ...nothing, id: '', from: this.state, to, length_ms: 0, fade: null, spans, of: {} };
  }

  private rest(index: number): Place {
    return at(this.tables.motions, index).places[this.state] as Place;
  }

  private followUntil(t: number): void {
    let atOnce = 0;
    for (let next = this.following(); next; next = this.following()) {
      const departure = this.departure(next);
      if (departure > t) return;
      atOnce = departure === this.began_ms ? atOnce + 1 : 0;
      if (atOnce > MOST_AT_ONCE) throw new Error(`From ${this.state} on states follow each other in no time.`);
      this.left.set(this.state, (this.left.get(this.state) ?? 0) + 1);
      this.take(next, departure, true);
    }
  }

  /** What will start by itself: the shortest rest, the first written among equals. */
  private following(): Transition | null {
    const { leavings, plays, transitions } = this.tables;
    if (leavings && (this.left.get(this.state) ?? 0) >= (leavings[this.state] ?? plays ?? 1)) return null;
    let alone: Transition | null = null;
    const ready: Transition[] = [];
    for (const own of transitions) {
      if (own.from !== this.state) continue;
      const rests = own.cue === 'hold' || own.cue === 'media-end' || (this.first && own.cue === 'appear');
      if (rests && (!alone || own.rest_ms < alone.rest_ms)) alone = own;
      if (this.arrived(own) !== null) ready.push(own);
    }
    if (!ready.length) return alone;
    // Of what is ready at the same moment the first written starts.
    const all = transitions.filter((own) => own === alone || ready.includes(own));
    return all.reduce((first, own) => (this.departure(own) < this.departure(first) ? own : first));
  }

  private arrived({ cue, layer, arrival }: Transition): number | null {
    return cue === 'reaches' ? this.stands(layer ?? '', arrival ?? '') : null;
  }

  private departure(own: Transition): number {
    const arrived = this.arrived(own) ?? this.began_ms;
    return Math.max(this.reached_ms + own.rest_ms - own.early_ms, this.began_ms, arrived);
  }

  /** When something happens by itself after a moment; endless where nothing ever does. */
  next(t: number): number {
    const following = this.following();
    const moments = [this.due_ms, this.reached_ms, following && this.departure(following)];
    return Math.min(...moments.filter((moment) => moment !== null).filter((moment) => moment > t), Infinity);
  }

  private heed(event: Event, t: number): void {
    const layer = event.layer ?? null;
    if (!this.isInReach(layer, t)) {
      const isThere = layer !== null && around(this.tables, layer).length > 0;
      return this.tell(event, t, null, isThere ? 'unseen' : 'gone', 0);
    }
    const { transition, reason, rest_ms } = judged(this.tables, event, this.state, t - this.reached_ms);
    this.tell(event, t, transition, reason, rest_ms);
    if (!transition) return;
    this.left.clear();
    this.take(transition, t, false);
  }

  private tell(event: Event, at_ms: number, transition: Transition | null, reason: Reason, rest_ms: number): void {
    const { state, copy } = this;
    this.onHeard({ event, at_ms, state, transition: transition?.id ?? null, reason, rest_ms, copy });
  }

  private isInReach(layer: string | null, t: number): boolean {
    return layer === null || this.sees(layer, t);
  }

  private isSeen(layer: string, t: number): boolean {
    const chain = around(this.tables, layer);
    return chain.length > 0 && chain.every((id) => this.isShown(id, t));
  }

  /** Whether a layer by itself is there to be seen, whatever is around it. */
  isShown(id: string, t: number): boolean {
    const { layers, motions } = this.tables;
    const hidden = motions.some(
      ({ layer, property }, index) =>
        layer === id && (property === 'opacity' || property === 'visible') && at(this.place(index, t), 0) <= 0,
    );
    return !hidden && layers.every((layer) => layer.id !== id || layer.seen);
  }

  private take(transition: Transition, now: number, byItself: boolean): void {
    const { motions } = this.tables;
    const interrupted = this.motions.some((motion) => motion && motion.end_ms > now);
    if (transition.fade) {
      const places = motions.map((_, index) => this.place(index, now));
      this.fades.push({ start_ms: now, ...transition.fade, places });
    }
    for (let index = 0; index < motions.length; index++) {
      const of = at(motions, index);
      // A cross-fade shows its new look whole, whatever was under way.
      const running = this.moves(index, now) && !transition.fade ? at(this.motions, index) : null;
      const span = at(transition.spans, transition.of[index] ?? 0);
      const goal = of.places[transition.to] as Place;
      this.motions[index] = sent(this.tables, of, now, this.place(index, now), goal, span, running);
    }
    const longest = this.motions.reduce((end, motion) => Math.max(end, motion?.end_ms ?? now), now) - now;
    const whole = byItself ? Math.ceil(longest - 1e-6) : longest;
    this.from = this.state;
    this.state = transition.to;
    this.began_ms = now;
    this.reached_ms = now + (interrupted ? whole : transition.length_ms);
    this.first = false;
    this.playMedia();
    this.onTaken({ transition, at_ms: now, reached_ms: this.reached_ms });
  }

  /** Media whose end is waited for in the state play on from the moment that it is reached. */
  private playMedia(): void {
    for (const own of this.tables.transitions) {
      if (own.from !== this.state || !own.medium) continue;
      const [layer, from, to, curve] = own.medium;
      const index = this.tables.motions.findIndex((m) => m.layer === layer && m.property === 'playhead');
      const left = own.rest_ms - own.hold_ms;
      const [start_ms, end_ms] = [this.reached_ms, this.reached_ms + left];
      const span = { start_ms: 0, end_ms: left, curve };
      const way = { start: [from], goal: [to], speed: null, sentBackTo: [from], factor: 1 };
      this.motions[index] = { of: at(this.tables.motions, index), start_ms, end_ms, span, ...way };
    }
  }
}
