/* A piece being used: tables on a picture, by a clock, with whoever acts; and all that happened, to be replayed. */
import type { Event, Heard, Tables } from './data';
import { cued, Gestures } from './gestures';
import { Live, type Pictures } from './live';
import type { Stage, Taken } from './stage';

/** More events than this are not kept: the oldest go first. */
const MOST_EVENTS = 10_000;

export interface Told {
  /** It begins, or begins anew: what was told so far is told again. */
  begun?: (session: Session) => void;
  heard?: (heard: Heard) => void;
  taken?: (taken: Taken, stage: Stage) => void;
  /** A moment is about to be shown. */
  shown?: (t: number) => void;
  /** It stands still, or goes on. */
  switched?: (session: Session) => void;
}

export class Session {
  readonly events: Event[] = [];
  playing = true;
  /** How many times as fast as the clock on the wall. */
  rate = 1;
  private live: Live;
  private gestures: Gestures | null = null;
  private t = 0;
  private last: number | null = null;
  private frame = 0;
  private calm = false;
  /** When it was sent to a state, which nobody does in the piece; told again with what they do. */
  private sent: readonly { readonly t_ms: number; readonly state: string }[] = [];
  /** What is still to be acted, in a replay. */
  private due: readonly Event[] = [];
  /** All that is acted in a replay, until somebody does something else. */
  planned: readonly Event[] = [];

  constructor(
    public tables: Tables,
    private readonly pictures: Pictures,
    private readonly told: Told = {},
  ) {
    this.live = this.begun();
  }

  get now(): number {
    return this.t;
  }

  get state(): string {
    return this.live.stage.state;
  }

  get stage() {
    return this.live.stage;
  }

  /** Motion is unwanted, or wanted again. */
  setCalm(calm: boolean): void {
    this.calm = this.live.calm = calm;
  }

  /** Listens to pointers and keys on the element in which the piece is drawn. */
  listenOn(root: HTMLElement): void {
    this.gestures?.stop();
    this.gestures = new Gestures(root, this.tables, {
      hear: (cue, layer, key) => this.improvise(cued(this.catchUp(), cue, layer, key)),
      isSeen: (layer) => this.live.cast.sees(layer, this.t),
      rate: () => this.rate,
      scrolled: () => this.live.cast.scrolled,
      scroll: (y) => this.improvise({ t_ms: this.catchUp(), cue: 'scroll', y: Math.round(y * 100) / 100 }),
    });
  }

  /** Goes on with other values, at the moment that is shown. */
  use(tables: Tables): void {
    this.tables = tables;
    this.gestures?.use(tables);
    this.live.use(tables);
    this.show();
  }

  /** Begins to play, frame by frame. */
  start(): void {
    this.last = null;
    this.frame ||= requestAnimationFrame(this.tick);
  }

  stop(): void {
    cancelAnimationFrame(this.frame);
    this.frame = 0;
    this.gestures?.stop();
  }

  /** What somebody does. Nothing is heard while it stands still. */
  act(event: Event): Heard | null {
    if (!this.playing) return null;
    this.events.push(event);
    if (this.events.length > MOST_EVENTS) this.events.shift();
    this.t = Math.max(this.t, event.t_ms);
    let found: Heard | null = null;
    const { cast } = this.live;
    const { onHeard } = cast;
    cast.onHeard = (heard) => {
      if (heard.event === event) found ??= heard;
      onHeard(heard);
    };
    this.live.hear(event);
    cast.onHeard = onHeard;
    return found;
  }

  /** Somebody does something: what was planned is not acted any more. */
  private improvise(event: Event): Heard | null {
    if (!this.playing) return null;
    this.due = [];
    this.plan([]);
    return this.act(event);
  }

  private plan(events: readonly Event[]): void {
    if (!events.length && !this.planned.length) return;
    this.planned = events;
    this.told.switched?.(this);
  }

  go(state: string): void {
    const t_ms = this.catchUp();
    this.sent = [...this.sent.slice(1 - MOST_EVENTS), { t_ms, state }];
    this.live.go(state, t_ms);
  }

  setRate(rate: number): void {
    this.catchUp();
    this.rate = rate;
    this.told.switched?.(this);
  }

  play(): void {
    this.playing = true;
    this.last = null;
    this.told.switched?.(this);
  }

  pause(still = true): void {
    if (!still) return this.play();
    this.catchUp();
    this.playing = false;
    this.told.switched?.(this);
  }

  /** Stands still, so many frames of 60 per second further on. */
  step(frames: number): void {
    this.pause();
    this.seek(Math.max(this.t + (frames * 1000) / 60, 0));
  }

  /** All events: those that were, and those that are still to be acted. */
  get script(): readonly Event[] {
    return [...this.events, ...this.due];
  }

  /** Shows a moment: everything is played anew from the start, with the events that there were until then. */
  seek(t: number): void {
    this.replay(this.script, t);
  }

  /** Plays these events, in the order of time, up to a moment, and shows it; the others come when it is their time. */
  replay(events: readonly Event[], t: number): void {
    const until = events.filter((event) => event.t_ms <= t);
    this.due = events.slice(until.length);
    this.events.splice(0, this.events.length, ...until);
    this.live = this.begun();
    const sent = this.sent.filter((each) => each.t_ms <= t);
    for (const each of [...until, ...sent].sort((a, b) => a.t_ms - b.t_ms)) {
      if ('state' in each) this.live.go(each.state, each.t_ms);
      else this.live.hear(each);
    }
    this.t = t;
    this.last = null;
    this.show();
  }

  /** Begins anew, and acts these events as their time comes. */
  perform(events: readonly Event[]): void {
    const sorted = [...events].sort((a, b) => a.t_ms - b.t_ms);
    this.plan(sorted);
    this.sent = [];
    this.replay(sorted, 0);
    this.play();
  }

  private begun(): Live {
    this.told.begun?.(this);
    const live = new Live(this.tables, this.pictures, this.told);
    live.calm = this.calm;
    return live;
  }

  private show(): void {
    this.live.show(this.t);
    this.told.shown?.(this.t);
  }

  /** Time goes on between frames too: what somebody does then is heard at its own moment. */
  private catchUp(now = performance.now()): number {
    if (this.playing && this.last !== null && now > this.last) {
      const t = this.t + (now - this.last) * this.rate;
      this.last = now;
      for (let next = this.due[0]; next && next.t_ms <= t; next = this.due[0]) {
        this.due = this.due.slice(1);
        this.act(next);
      }
      this.t = Math.max(this.t, t);
    }
    return this.t;
  }

  private readonly tick = (now: number): void => {
    if (this.playing) {
      if (this.last === null) this.last = now;
      // What was done after this frame began is seen in it all the same.
      this.catchUp(now > this.last ? now : performance.now());
      this.show();
    }
    this.frame = requestAnimationFrame(this.tick);
  };
}
