/* Films as frames, by a library that reads the files and the decoders of the browser. It is loaded only for films. */
import { BufferSource, EncodedPacketSink, Input, MP4, VideoSampleSink, WEBM, type VideoSample } from 'mediabunny';
import type { Film } from './films';
import { Projector, type Frame } from './projector';
import { known } from '../../shared/known';

/** Rejects where there is nothing in it that this browser decodes. */
export async function openFilm(data: Uint8Array<ArrayBuffer>): Promise<Film> {
  const track = await new Input({ source: new BufferSource(data), formats: [MP4, WEBM] }).getPrimaryVideoTrack();
  if (!track || !(await track.canDecode())) throw new Error('The film cannot be decoded here.');
  const packets: { at: number; isWhole: boolean }[] = [];
  for await (const packet of new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true }))
    packets.push({ at: packet.timestamp, isWhole: packet.type === 'key' });
  // They come in the order in which they are decoded.
  packets.sort((one, other) => one.at - other.at);
  const sink = new VideoSampleSink(track);
  async function* framesFrom(index: number): AsyncGenerator<Frame, void> {
    for await (const sample of sink.samples(known(packets[index]).at)) yield frameOf(sample);
  }
  const frames = {
    starts: packets.map(({ at }) => at * 1000),
    whole: packets.flatMap(({ isWhole }, index) => (isWhole ? [index] : [])),
    pixels: track.displayWidth * track.displayHeight,
    framesFrom,
  };
  // Held weakly: who has let the canvas go lets its frames go too.
  return (canvas) => new Projector(frames, new WeakRef(canvas));
}

function frameOf(sample: VideoSample): Frame {
  return {
    draw(canvas) {
      const { displayWidth: width, displayHeight: height } = sample;
      if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
      const context = known(canvas.getContext('2d'));
      context.clearRect(0, 0, width, height);
      sample.draw(context, 0, 0, width, height);
    },
    close: () => sample.close(),
  };
}
