/* A film that follows a playhead, where a browser cannot read its frames: it plays by itself as long as the playhead runs,
 * and is put right where it strays.
 * To seek it at every frame would decode it from its last whole picture each time. */

/** ms: farther apart a film that plays is put right at once, else by playing a little faster or slower. */
const LOST = 400;
/** ms in which what it is off by is made up for. */
const CATCH_UP = 300;
/** ms between two seeks of a film that plays: a slow one would only seek. */
const PATIENCE = 800;
/** ms without word of the playhead, after which it stands. */
const SILENCE = 120;
/** How fast a film can play by itself. */
const [SLOWEST, FASTEST] = [0.2, 4];

/** Of a playhead: where it was, when that was told, and how fast it ran. */
export interface Followed {
  t: number;
  now: number;
  rate: number;
}

export type Wish = { kind: 'play'; rate: number } | { kind: 'stand' };

/** What a film is to do for a playhead that was there before and is at `t` now; times in ms. */
export function wishOf(before: Followed | null, t: number, now: number): Wish {
  const passed = before ? now - before.now : 0;
  if (!before || passed <= 0 || passed > SILENCE) return { kind: 'stand' };
  const rate = (t - before.t) / passed;
  if (rate < SLOWEST || rate > FASTEST) return { kind: 'stand' };
  // Frames come unevenly, the clock behind them does not.
  const steady = before.rate ? before.rate + (rate - before.rate) * 0.2 : rate;
  return { kind: 'play', rate: Math.round(steady * 20) / 20 };
}

/** How fast a film has to play that is `behind` by so many ms, to be in step soon. */
export function pace(rate: number, behind: number): number {
  const more = Math.abs(behind) < 8 ? 0 : Math.min(Math.max(behind / CATCH_UP, -0.5), 0.5);
  return Math.round(rate * (1 + more) * 20) / 20;
}

class Follower {
  private before: Followed | null = null;
  private wanted: number | null = null;
  private timer = 0;
  private sought = -Infinity;

  constructor(private readonly film: HTMLVideoElement) {
    film.addEventListener('seeked', () => this.seekOn());
    film.addEventListener('loadeddata', () => this.seekOn());
  }

  /** The playhead is at `t` ms. */
  to(t: number): void {
    const now = performance.now();
    if (this.before?.t === t && this.film.paused) return;
    const wish = wishOf(this.before, t, now);
    this.before = { t, now, rate: wish.kind === 'play' ? wish.rate : 0 };
    clearTimeout(this.timer);
    if (wish.kind === 'stand') return this.stand(t);
    const behind = t - this.film.currentTime * 1000;
    const rate = pace(wish.rate, behind);
    if (this.film.playbackRate !== rate) this.film.playbackRate = rate;
    if (this.film.paused) this.film.play().catch(() => this.stand(t));
    if (Math.abs(behind) > LOST && now - this.sought > PATIENCE) {
      this.sought = now;
      this.seek(t);
    }
    this.timer = window.setTimeout(() => this.stand(t), SILENCE);
  }

  private stand(t: number): void {
    if (!this.film.paused) this.film.pause();
    if (Math.abs(this.film.currentTime * 1000 - t) > 0.5) this.seek(t);
  }

  /** One at a time: what is wanted meanwhile comes after it. */
  private seek(t: number): void {
    this.wanted = t;
    if (!this.film.seeking) this.seekOn();
  }

  private seekOn(): void {
    if (this.wanted === null) return;
    this.film.currentTime = this.wanted / 1000;
    this.wanted = null;
  }
}

const followers = new WeakMap<HTMLVideoElement, Follower>();

/** Lets a film that the browser plays follow a playhead, ms. */
export function follow(film: HTMLVideoElement, t: number): void {
  const known = followers.get(film) ?? new Follower(film);
  followers.set(film, known);
  known.to(t);
}
