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
  private unsaid: Heard[] = [];
  onHeard: (heard: Heard) => void = () => undefined;
  onTaken: (taken: Taken, stage: Stage) => void = () => undefined;

  constructor(tables: Tables, origin_ms = 0, copy: string | null = null) {
    this.stage = new Stage(tables, origin_ms, copy);
    this.waiting = tables.voices;
    this.stage.sees = (layer, t) => this.sees(layer, t);
    // With nobody else to hear it, it is said at once.
    const isAlone = copy === null && !tables.voices.length;
    this.stage.onHeard = (heard) => (isAlone ? this.onHeard(heard) : this.unsaid.push(heard));
    this.stage.onTaken = (taken) => {
      this.begin(taken.at_ms, [taken.transition.from, taken.transition.to]);
      this.onTaken(taken, this.stage);
    };
    this.begin(origin_ms, [this.stage.state]);
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
    this.stage.playUntil(Math.max(t, this.now));
    for (const voice of this.voices) voice.play(t);
  }

  private listen(event: Event): void {
    this.stage.hear(event);
    for (const voice of this.voices) {
      if (event.cue === 'key' || (event.layer && voice.holds(event.layer))) voice.listen(event);
    }
  }

  /** Those that are seen in one of these states, and were not before, begin to live. */
  private begin(t: number, states: readonly string[]): void {
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
