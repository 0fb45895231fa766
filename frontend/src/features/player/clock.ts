/* Time for players: one frame callback for all of them. */
import type { Run } from '../../api/contract';

export interface Length {
  lead_in_ms: number;
  loop_ms: number | null;
  total_ms: number;
  /** How often the loop is played before the piece rests; for ever where it is missing. */
  plays?: number | null;
}

/** How long a piece that ends rests on its last look before it is played again. */
const REST_MS = 1200;

/** Where playing stands after `t` ms: loops go round after their lead-in; what ends rests, then starts again. */
export function momentOf(t: number, run: Length): number {
  if (run.loop_ms === null) return Math.min(t % (run.total_ms + REST_MS), run.total_ms);
  if (run.plays) {
    const end = run.lead_in_ms + run.plays * run.loop_ms;
    const within = t % (end + REST_MS);
    return within >= end ? run.total_ms : momentOf(within, { ...run, plays: null });
  }
  return t < run.total_ms ? t : run.lead_in_ms + ((t - run.lead_in_ms) % run.loop_ms);
}

/** How a run is looked at: as it loops, once and then standing still, or forwards and backwards in turn. */
export type Look = 'loop' | 'once' | 'back';

/** ms of a run */
export type Part = readonly [from: number, to: number];

/** As far as the run goes; none where that is nothing. */
const keptTo = ([from, to]: Part, total_ms: number): Part | null =>
  from < total_ms ? [from, Math.min(to, total_ms)] : null;

const wrapped = (t: number, length: number) => ((t % length) + length) % length;

export class Clock {
  /** ms played, at rate 1 */
  t = 0;
  rate = 1;
  look: Look = 'loop';
  playing = true;
  /** The part that is played over and over; none for the whole run. */
  private part: Part | null = null;
  /** Where that part is in another run. */
  private partIn: ((run: Run) => Part | null) | null = null;
  private run: Run | null = null;
  private last: number | null = null;
  private frame = 0;
  private readonly switches = new Set<() => void>();
  private readonly listeners = new Set<(moment: number) => void>();

  get moment(): number {
    if (!this.run) return 0;
    const [from, to] = this.span;
    if (this.look === 'once' || to <= from) return Math.min(Math.max(this.t, from), to);
    const length = to - from;
    if (this.look === 'back') return from + length - Math.abs(length - wrapped(this.t - from, 2 * length));
    return this.part ? from + wrapped(this.t - from, length) : momentOf(this.t, this.run);
  }

  /** What is played: a part of the run, or all of it. */
  private get span(): readonly [from: number, to: number] {
    return this.part ?? [0, this.run?.total_ms ?? 0];
  }

  setRun(run: Run): void {
    // An edit keeps the moment, unless the run has become too short for it. What only goes round goes on.
    this.t = this.run && run.total_ms ? Math.min(this.moment, run.total_ms) : this.t;
    this.run = run;
    // What is played over and over stays so while it is edited.
    const before = this.part;
    this.part = before && (this.partIn ? this.partIn(run) : keptTo(before, run.total_ms));
    this.tell();
    if (before && this.part?.join() !== before.join()) this.announce();
  }

  seek(t: number): void {
    this.t = t;
    this.tell();
  }

  /** Plays only this part of the run (ms), over and over; the whole of it again with null. `partIn` says where it is
   * after an edit. */
  setPart(part: Part | null, partIn: ((run: Run) => Part | null) | null = null): void {
    const moment = this.moment;
    this.part = part && part[1] > part[0] ? part : null;
    this.partIn = partIn;
    this.seek(this.part ? this.part[0] : moment);
    this.announce();
  }

  setLook(look: Look): void {
    const moment = this.moment;
    this.look = look;
    this.seek(moment);
    this.announce();
  }

  setRate(rate: number): void {
    this.rate = rate;
    this.announce();
  }

  get plays(): Part | null {
    return this.part;
  }

  /** Which frame of that many per second is shown; what lies between two belongs to the one before it. */
  frameOf(fps: number): number {
    return Math.floor((this.moment * fps) / 1000 + 1e-6);
  }

  /** Stands still, on a frame so many further on; from between two back to the one before it first. */
  step(frames: number, fps = 60): void {
    this.setPlaying(false);
    const between = (this.moment * fps) / 1000 - this.frameOf(fps) > 1e-3;
    const frame = this.frameOf(fps) + frames + (frames < 0 && between ? 1 : 0);
    this.seek((Math.max(frame, 0) * 1000) / fps);
  }

  setPlaying(playing: boolean): void {
    this.playing = playing;
    this.last = null;
    // What was played to its end once is played once more.
    if (playing && this.isOver) this.t = this.span[0];
    // Figures are not said at every frame: where it stands still, they are.
    this.tell();
    this.announce();
  }

  private get isOver(): boolean {
    return this.look === 'once' && this.t >= this.span[1];
  }

  private announce(): void {
    for (const listener of this.switches) listener();
  }

  /** Calls back whenever it is started or stopped, or plays in another way. */
  readonly onSwitch = (listener: () => void): (() => void) => {
    this.switches.add(listener);
    return () => this.switches.delete(listener);
  };

  /** Calls back with the moment at each frame, and once now. */
  listen(listener: (moment: number) => void): () => void {
    this.listeners.add(listener);
    listener(this.moment);
    if (!this.frame) this.frame = requestAnimationFrame(this.tick);
    return () => {
      this.listeners.delete(listener);
      if (!this.listeners.size) {
        cancelAnimationFrame(this.frame);
        this.frame = 0;
        this.last = null;
      }
    };
  }

  private readonly tick = (now: number): void => {
    if (this.playing) {
      if (this.last !== null) this.t += (now - this.last) * this.rate;
      this.last = now;
      this.tell();
      if (this.isOver) this.setPlaying(false);
    }
    this.frame = requestAnimationFrame(this.tick);
  };

  private tell(): void {
    const moment = this.moment;
    for (const listener of this.listeners) listener(moment);
  }
}
