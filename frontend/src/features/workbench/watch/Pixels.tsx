import { useEffect, useRef } from 'react';
import { api } from '../../../api/client';
import { clock, sayFault, useBench } from '../bench';

interface Props {
  /** px of the piece */
  width: number;
  height: number;
  zoom: number;
}

/** The moment as the server draws it at the size of the piece, each pixel enlarged. While one is drawn, none is asked. */
export function Pixels({ width, height, zoom }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const id = useBench((b) => b.id);
  const revision = useBench((b) => b.revision);
  useEffect(() => {
    let [shown, asked, gone] = [-1, false, false];
    const draw = async (moment: number) => {
      if (asked || gone || moment === shown) return;
      asked = true;
      try {
        const image = await api.frame(id, moment, revision);
        const context = canvas.current?.getContext('2d');
        context?.clearRect(0, 0, width, height);
        context?.drawImage(image, 0, 0);
        shown = moment;
      } catch (error) {
        gone = true;
        sayFault(error);
      }
      asked = false;
      // Where playing stands still, the last moment must be seen in the end.
      if (!clock.playing) void draw(clock.moment);
    };
    const stop = clock.listen((moment) => void draw(moment));
    return () => {
      gone = true;
      stop();
    };
  }, [id, revision, width, height]);
  return (
    <canvas
      ref={canvas}
      className="pixels"
      role="img"
      aria-label="The loop in pixels"
      width={width}
      height={height}
      style={{
        position: 'absolute',
        inset: 0,
        width: width * zoom,
        height: height * zoom,
        imageRendering: 'pixelated',
      }}
    />
  );
}
