/* Moving pictures in the page: their frames, read once and shown at any moment. */
import { known } from '../../shared/known';

/** ms: what is to be shown no longer than the first is shown for the second, as browsers do. */
const [HASTY, INSTEAD] = [10, 100];
/** Pixels of frames that are kept; more are read again when they are needed. */
const MOST_KEPT = 48_000_000;

class Reel {
  private readonly starts: number[] = [];
  private readonly frames: (ImageBitmap | null)[] = [];
  private decoder: ImageDecoder | null = null;
  private kept = 0;
  /** Whoever waits for a frame to be read, and what it wants shown then. */
  private readonly waiting = new Map<HTMLCanvasElement, number>();

  constructor(source: string) {
    // What cannot be read is not shown; the server refuses it in words.
    this.read(source).catch(() => this.waiting.clear());
  }

  private async read(source: string): Promise<void> {
    const [head = '', text = ''] = source.split(',');
    const type = head.slice('data:'.length).replace(';base64', '');
    const decoder = new ImageDecoder({ data: Uint8Array.from(atob(text), (c) => c.charCodeAt(0)), type });
    await decoder.tracks.ready;
    const count = decoder.tracks.selectedTrack?.frameCount ?? 0;
    let end = 0;
    for (let frameIndex = 0; frameIndex < count; frameIndex++) {
      const { image } = await decoder.decode({ frameIndex });
      const ms = (image.duration ?? 0) / 1000;
      this.starts.push(end);
      end += ms > HASTY ? ms : INSTEAD;
      this.frames.push(this.kept < MOST_KEPT ? await this.keep(image) : null);
      image.close();
      // What waits for this one is shown as soon as it is there.
      for (const [canvas, t] of this.waiting) if (t < end) this.show(canvas, t);
    }
    this.decoder = decoder;
    for (const [canvas, t] of this.waiting) this.show(canvas, t);
  }

  private async keep(image: VideoFrame): Promise<ImageBitmap> {
    this.kept += image.displayWidth * image.displayHeight;
    return createImageBitmap(image);
  }

  /** Draws what is shown at `t` ms; as soon as it is read, where that is still to be done. */
  show(canvas: HTMLCanvasElement, t: number): void {
    const index = Math.max(
      this.starts.findLastIndex((start) => start <= t),
      0,
    );
    const isLast = index === this.frames.length - 1 && !this.decoder;
    if (!this.frames.length || isLast) this.waiting.set(canvas, t);
    else this.waiting.delete(canvas);
    if (index >= this.frames.length || canvas.dataset.frame === `${index}`) return;
    const frame = this.frames[index];
    if (frame) draw(canvas, frame, frame.width, frame.height, index);
    else void this.showAgain(canvas, index);
  }

  private async showAgain(canvas: HTMLCanvasElement, frameIndex: number): Promise<void> {
    canvas.dataset.wanted = `${frameIndex}`;
    const { image } = (await this.decoder?.decode({ frameIndex })) ?? { image: null };
    // By then another one may be wanted.
    if (image && canvas.dataset.wanted === `${frameIndex}`)
      draw(canvas, image, image.displayWidth, image.displayHeight, frameIndex);
    image?.close();
  }
}

function draw(canvas: HTMLCanvasElement, image: CanvasImageSource, width: number, height: number, index: number): void {
  if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
  const context = known(canvas.getContext('2d'));
  context.clearRect(0, 0, width, height);
  context.drawImage(image, 0, 0);
  canvas.dataset.frame = `${index}`;
}

const reels = new Map<string, Reel>();
const MOST_REELS = 24;

/** Kept for all scenes of the page; null where the browser cannot read single frames. */
export function reelOf(source: string): Reel | null {
  if (typeof ImageDecoder === 'undefined') return null;
  const before = reels.get(source);
  const reel = before ?? new Reel(source);
  reels.delete(source);
  reels.set(source, reel);
  if (reels.size > MOST_REELS) reels.delete(known(reels.keys().next().value));
  return reel;
}
