/* A piece on its stage, and its free placements on stages of their own: `core/live/cast.py`. */
import type { Event, Heard, Reason, Tables, Voice } from './data';
import { around } from './hearing';
import { Stage, type Taken } from './stage';

/** What became of an event that several pieces heard, and none heeded: the first of these that one of them says. */
const MOST_TELLING: readonly Reason[] = ['resting', 'other-key', 'elsewhere', 'unseen', 'gone', 'not-awaited'];

export class Cast {
  readonly stage: Stage;
  readonly voices: Cast[] = [];
  /** How far the content is scrolled, px. */
  scrolled = 0;
  private waiting: readonly Voice[];
  /** Whether one of its transitions starts when something arrives. */
  private readonly waits: boolean;
  private unsaid: Heard[] = [];
  /** The states that were met since it was last looked who begins, and when. */
  private readonly seen: [t: number, states: readonly string[]][] = [];
  onHeard: (heard: Heard) => void = () => undefined;
  onTaken: (taken: Taken, stage: Stage) => void = () => undefined;

  constructor(tables: Tables, origin_ms = 0, copy: string | null = null) {
    this.stage = new Stage(tables, origin_ms, copy);
    this.waiting = tables.voices;
    this.waits = tables.transitions.some(({ cue }) => cue === 'reaches');
    this.stage.stands = (layer, state) => this.stands(layer, state);
    this.stage.sees = (layer, t) => this.sees(layer, t);
    // With nobody else to hear it, it is said at once.
    const isAlone = copy === null && !tables.voices.length;
    this.stage.onHeard = (heard) => (isAlone ? this.onHeard(heard) : this.unsaid.push(heard));
    this.stage.onTaken = (taken) => {
      this.seen.push([taken.at_ms, [taken.transition.from, taken.transition.to]]);
      this.onTaken(taken, this.stage);
    };
    this.seen.push([origin_ms, [this.stage.state]]);
    this.begin();
  }

  go(state: string, t: number): void {
    this.stage.go(state, t);
    this.begin();
  }

  /** Goes on with other values, and all that lives in it. */
  use(tables: Tables): void {
    this.stage.use(tables);
    this.waiting = tables.voices.filter(({ copy }) => this.waiting.some((voice) => voice.copy === copy));
    for (const voice of this.voices) {
      const found = tables.voices.find(({ copy }) => copy === voice.stage.copy);
      if (found) voice.use(found.tables);
    }
  }

  get now(): number {
    return this.stage.now;
  }

  /** It, and those in it, from the outside in. */
  get all(): Cast[] {
    return [this, ...this.voices.flatMap((voice) => voice.all)];
  }

  /** When the last of all that is on its way will be there. */
  get reached_ms(): number {
    return Math.max(...this.all.map(({ stage }) => stage.reached_ms));
  }

  playUntil(t: number): void {
    // Whether a tap that turns out to be a single one is heeded depends on what all the others show then.
    const due = this.all.flatMap(({ stage }) => stage.due_ms ?? []).filter((moment) => moment <= t);
    for (const moment of due.sort((a, b) => a - b)) this.play(moment);
    this.play(t);
    this.say();
  }

  /** Heard by each piece around the layer, whoever heeds it; what is done on no layer by the outermost, a key by all. */
  hear(event: Event): void {
    const t = Math.max(event.t_ms, this.now);
    this.playUntil(t);
    if (event.cue === 'scroll') {
      this.scrolled = event.y ?? 0;
      return;
    }
    this.listen(event);
    this.say();
  }

  sees(layer: string, t: number): boolean {
    const chain = around(this.stage.tables, layer);
    return chain.length > 0 && chain.every((id) => this.shows(id, t));
  }

  private shows(layer: string, t: number): boolean {
    const owner = this.voices.find(({ stage }) => layer.startsWith(`${stage.copy}/`));
    return owner ? owner.shows(layer, t) : this.stage.isShown(layer, t);
  }

  private holds(layer: string): boolean {
    const { copy } = this.stage;
    return layer === copy || layer.startsWith(`${copy}/`);
  }

  private play(t: number): void {
    // Whoever waits for arrivals is there when they happen, and when something leaves at once what it has reached.
    if (this.waits) this.step(this.now);
    for (let next = this.next(); this.waits && next <= t; next = this.next()) this.step(next);
    this.step(t);
  }

  private step(t: number): void {
    for (let times = this.waits ? 2 : 1; times > 0; times--) {
      this.stage.playUntil(Math.max(t, this.now));
      this.begin();
      for (const voice of this.voices) voice.play(t);
    }
  }

  /** When something happens by itself next, in it or in what lives in it. */
  private next(): number {
    return Math.min(this.stage.next(this.now), ...this.voices.map((voice) => voice.next()));
  }

  private stands(copy: string, state: string): number | null {
    const stage = this.voices.find((voice) => voice.stage.copy === copy)?.stage;
    return stage?.state === state && stage.reached_ms <= stage.now ? stage.reached_ms : null;
  }

  private listen(event: Event): void {
    this.stage.hear(event);
    const voices = [...this.voices];
    this.begin();
    for (const voice of voices) {
      if (event.cue === 'key' || (event.layer && voice.holds(event.layer))) voice.listen(event);
    }
  }

  /** Those that are seen by now, and were not before, begin to live. */
  private begin(): void {
    for (const [t, states] of this.seen.splice(0)) this.beginIn(t, states);
  }

  private beginIn(t: number, states: readonly string[]): void {
    const begun = this.waiting.filter(({ seen_in }) => states.some((state) => seen_in.includes(state)));
    if (!begun.length) return;
    this.waiting = this.waiting.filter((voice) => !begun.includes(voice));
    for (const { tables, copy } of begun) {
      const voice = new Cast(tables, t, copy);
      for (const each of voice.all) each.stage.sees = (layer, now) => this.stage.sees(layer, now);
      voice.onTaken = (taken, stage) => this.onTaken(taken, stage);
      this.voices.push(voice);
    }
  }

  /** Says once for each event what became of it. */
  private say(): void {
    const found = new Map<string, Heard[]>();
    for (const heard of this.all.flatMap((cast) => cast.unsaid.splice(0))) {
      const { t_ms, cue, layer, key } = heard.event;
      // What is half of a double tap to one is a tap to another.
      const named = JSON.stringify([t_ms, cue === 'double-tap' ? 'tap' : cue, layer, key]);
      found.set(named, [...(found.get(named) ?? []), heard]);
    }
    for (const each of found.values()) {
      const heeded = each.filter(({ transition, reason }) => transition !== null || reason === 'second-tap');
      const telling = MOST_TELLING.flatMap((reason) => each.filter((heard) => heard.reason === reason)).slice(0, 1);
      for (const heard of heeded.length ? heeded : telling) this.onHeard(heard);
    }
  }
}
