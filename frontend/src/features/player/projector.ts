/* The frames of a film at a playhead: decoded ahead of it, kept for a while behind it. */

export interface Frame {
  draw(canvas: HTMLCanvasElement): void;
  close(): void;
}

export interface Frames {
  /** ms at which each frame begins. */
  readonly starts: readonly number[];
  /** The numbers of whole pictures, from which a decoder can begin; in order. */
  readonly whole: readonly number[];
  /** px of a frame */
  readonly pixels: number;
  /** All frames in order from the one with this number. Decoders begin at the last whole picture before it. */
  framesFrom(index: number): AsyncGenerator<Frame, void>;
}

/** Pixels of frames that are kept, of small films all; and how many at least. */
const [MOST_KEPT, FEWEST] = [24_000_000, 16];
/** Frames that are decoded before they are wanted: a decoder that begins anew takes some to be there. */
const AHEAD = 8;
/** So many frames back is to run backwards, farther is to begin anew. */
const STRIDE = 24;
/** ms after which an earlier frame is shown of a film that cannot keep up. */
const STALE = 100;

interface Pass {
  frames: AsyncGenerator<Frame, void>;
  /** The frame that comes next. */
  next: number;
}

/** Shows one film on one canvas. */
export class Projector {
  private readonly kept = new Map<number, Frame>();
  private readonly most: number;
  private wanted = -1;
  private drawn = -1;
  private drawnAt = 0;
  private moves: 'not' | 'on' | 'back' = 'not';
  private pass: Pass | null = null;
  private isReading = false;
  private isClosed = false;
  /** A file may hold fewer frames than it says. */
  private count: number;

  constructor(
    private readonly film: Frames,
    private readonly canvas: WeakRef<HTMLCanvasElement>,
  ) {
    this.most = Math.max(Math.floor(MOST_KEPT / film.pixels), FEWEST);
    this.count = film.starts.length;
  }

  /** Draws what is seen at `t` ms, as soon as it is decoded. */
  show(t: number): void {
    const { starts } = this.film;
    // Of frames that begin at the same fraction of a ms, the later one.
    const index = Math.max(starts.findLastIndex((start) => start <= t + 1e-3), 0); // prettier-ignore
    if (index === this.wanted) return;
    if (this.wanted >= 0) this.moves = index < this.wanted && this.wanted - index < STRIDE ? 'back' : 'on';
    this.wanted = index;
    this.drawWanted();
    void this.read();
  }

  close(): void {
    this.isClosed = true;
    for (const frame of this.kept.values()) frame.close();
    this.kept.clear();
    void this.pass?.frames.return();
  }

  private drawWanted(): void {
    const frame = this.kept.get(this.wanted);
    if (frame) this.draw(this.wanted, frame);
  }

  private draw(index: number, frame: Frame): void {
    const canvas = this.canvas.deref();
    if (!canvas || this.drawn === index) return;
    frame.draw(canvas);
    this.drawn = index;
    this.drawnAt = performance.now();
    canvas.dataset.frame = `${index}`;
  }

  /** Decodes what is needed next, until nothing is. */
  private async read(): Promise<void> {
    if (this.isReading) return;
    this.isReading = true;
    try {
      for (let next = this.needed(); next !== null && !this.isClosed; next = this.needed()) await this.readTo(next);
    } catch (error) {
      // What is broken from here on stands at the frame before.
      console.warn('A film cannot be read to its end:', error);
      this.count = this.pass?.next ?? 0;
    } finally {
      this.isReading = false;
    }
  }

  private async readTo(index: number): Promise<void> {
    const { pass } = this;
    if (!pass || index < pass.next || this.isNearer(pass.next, index)) {
      await pass?.frames.return();
      this.pass = { frames: this.film.framesFrom(index), next: index };
    }
    const going = this.pass as Pass;
    const { value: frame } = await going.frames.next();
    if (!frame) {
      this.count = going.next;
      this.pass = null;
      return;
    }
    const read = going.next++;
    if (read < this.wanted && this.moves === 'on' && performance.now() - this.drawnAt > STALE) this.draw(read, frame);
    this.keep(read, frame);
    this.drawWanted();
  }

  /** Whether a decoder that begins anew is sooner at a frame than one that has come to `next`. */
  private isNearer(next: number, index: number): boolean {
    return this.film.whole.some((whole) => next < whole && whole <= index);
  }

  /** The first frame that is not there yet, of those that are seen soon. */
  private needed(): number | null {
    const { wanted, kept } = this;
    const [from, to] =
      this.moves === 'back' ? [wanted - this.most / 2, wanted] : [wanted, wanted + (this.moves === 'on' ? AHEAD : 0)];
    for (let index = Math.max(Math.ceil(from), 0); index <= Math.min(to, this.count - 1); index++)
      if (!kept.has(index)) return index;
    return null;
  }

  private keep(index: number, frame: Frame): void {
    if (this.isClosed || (this.moves === 'not' && index !== this.wanted) || this.kept.has(index)) return frame.close();
    this.kept.set(index, frame);
    this.dropFarthest();
  }

  /** The first frames stay besides: a film that begins anew is there at once. */
  private dropFarthest(): void {
    const others = [...this.kept.keys()].filter((index) => index > AHEAD);
    if (others.length <= this.most) return;
    const away = (index: number) => Math.abs(index - this.wanted);
    const farthest = others.reduce((one, other) => (away(other) > away(one) ? other : one));
    this.kept.get(farthest)?.close();
    this.kept.delete(farthest);
  }
}
