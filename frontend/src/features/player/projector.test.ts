import { afterEach, describe, expect, it, vi } from 'vitest';
import { Projector, type Frame } from './projector';

const [COUNT, EVERY, MS] = [120, 40, 1000 / 30];

/** A film whose frames say their numbers, each decoded in a turn of its own. */
function film(pixels: number, holds = COUNT) {
  const counted = { open: 0, most: 0, decoded: 0, passes: 0 };
  const drawn: number[] = [];
  const frame = (index: number): Frame => ({ draw: () => drawn.push(index), close: () => void counted.open-- });
  async function* framesFrom(from: number): AsyncGenerator<Frame, void> {
    counted.passes++;
    for (let index = Math.floor(from / EVERY) * EVERY; index < holds; index++) {
      await Promise.resolve();
      counted.decoded++;
      if (index < from) continue;
      counted.most = Math.max(counted.most, ++counted.open);
      yield frame(index);
    }
  }
  const starts = Array.from({ length: COUNT }, (_, index) => index * MS);
  const canvas = { dataset: {} } as HTMLCanvasElement;
  const projector = new Projector({ starts, whole: [0, 40, 80], pixels, framesFrom }, new WeakRef(canvas));
  return { projector, counted, drawn, canvas };
}

const rest = () => new Promise((done) => setTimeout(done));
const SMALL = 320 * 180;
const LARGE = 1920 * 1080;
/** Sizes of a film, and ms that pass wherever the time is asked. */
const MACHINES = [[SMALL, 0], [LARGE, 0], [SMALL, 200], [LARGE, 200]] as const; // prettier-ignore

afterEach(() => void vi.restoreAllMocks());

describe('a film at a playhead', () => {
  it.each([
    ['on', Array.from({ length: 100 }, (_, i) => i)],
    ['back', Array.from({ length: 100 }, (_, i) => 110 - i)],
    ['on and over and over', Array.from({ length: 300 }, (_, i) => i % 70)],
    ['to and fro', Array.from({ length: 200 }, (_, i) => 60 + Math.round(20 * Math.sin(i / 9)))],
    ['anywhere', Array.from({ length: 60 }, (_, i) => (i * i * 37) % COUNT)],
    ['at four times its speed', Array.from({ length: 29 }, (_, i) => 4 * i)],
  ])('is shown %s, and holds few frames, on a machine that keeps up or is always late', async (_, course) => {
    for (const [pixels, lag] of MACHINES) {
      let now = 0;
      vi.spyOn(performance, 'now').mockImplementation(() => (now += lag));
      const { projector, counted, drawn, canvas } = film(pixels);
      for (const index of course) {
        projector.show((index + 0.5) * MS);
        await rest();
        expect(drawn.at(-1)).toBe(index);
      }
      // Projectors let go of canvases that nobody holds: this one is held to here.
      expect(canvas.dataset.frame).toBe(`${course.at(-1)}`);
      expect(counted.most).toBeLessThanOrEqual(pixels === LARGE ? 16 + 9 + 1 : COUNT + 1);
      projector.close();
      await rest();
      expect(counted.open).toBe(0);
    }
  });

  it('is decoded once as it is played on, and hardly again as it is played anew', async () => {
    const { projector, counted } = film(LARGE);
    for (let index = 0; index < COUNT; index++) {
      projector.show(index * MS);
      await rest();
    }
    expect(counted.decoded).toBe(COUNT);
    // Its first frames are there at once: no turn passes.
    projector.show(0);
    expect(counted.decoded).toBe(COUNT);
  });

  it('stands where one frame is asked for, and reads no other', async () => {
    const { projector, counted, drawn, canvas } = film(SMALL);
    projector.show(50.5 * MS);
    await rest();
    expect([drawn, counted.open, counted.decoded, canvas.dataset.frame]).toEqual([[50], 1, 11, '50']);
  });

  it('ends where a file holds less than it says', async () => {
    const { projector, drawn, canvas } = film(SMALL, 30);
    for (const index of [28, 29, 30, 31, 3, 20]) {
      projector.show(index * MS);
      await rest();
    }
    expect([drawn, canvas.dataset.frame]).toEqual([[28, 29, 3, 20], '20']);
  });
});
