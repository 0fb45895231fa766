import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api } from '../../api/client';
import { dataOf } from '../../shared/dataOf';
import { known } from '../../shared/known';
import { endFilm, isDecodable, reelOf, showFilm } from '../player';
import type { Follow } from './held';
import { PlayedLottie } from './PlayedLottie';

interface Props {
  address: string;
  ending: string;
  title: string;
  /** px of the piece */
  size: { width: number; height: number };
  zoom: number;
  follow: Follow;
}

/** The endings of what can be held at a moment. */
export const isHeld = (ending: string) => /^(html|svg|webm|gif|webp|png|lottie\.json)$/.test(ending);

/** The file itself, at the moment of the stage. */
export function HeldFile(props: Props) {
  const { ending, address, title, follow } = props;
  if (ending === 'html' || ending === 'svg') return <HeldFrame {...props} />;
  if (ending === 'lottie.json') return <PlayedLottie address={address} title={title} follow={follow} />;
  return <HeldPictures {...props} />;
}

/** A document of its own, which listens. */
function HeldFrame({ address, title, size, zoom, follow }: Props) {
  const frame = useRef<HTMLIFrameElement>(null);
  useEffect(() => {
    const element = known(frame.current);
    let last = 0;
    const say = () => element.contentWindow?.postMessage(last, '*');
    const stop = follow((t) => {
      last = t;
      say();
    });
    element.addEventListener('load', say);
    return () => {
      stop();
      element.removeEventListener('load', say);
    };
  }, [follow]);
  return (
    <iframe
      ref={frame}
      title={title}
      src={`${address}&held=1`}
      sandbox="allow-scripts"
      style={{ ...size, transform: `scale(${zoom})` }}
    />
  );
}

/** Frame by frame; where this browser cannot do so, as it plays by itself. */
function HeldPictures({ address, ending, title, follow }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [isPlain, setPlain] = useState(false);
  const { data, error } = useQuery({
    queryKey: ['pictures', address],
    queryFn: async () => dataOf(await api.handedFile(address)),
  });
  const isFilm = ending === 'webm';
  useEffect(() => {
    if (!data || !canvas.current) return;
    const hold = isFilm ? holdFilm : holdReel;
    return hold(canvas.current, data, follow, () => setPlain(true));
  }, [data, follow, isFilm]);
  if (error) return <p role="alert">{error.message}</p>;
  const label = `The file: ${title}`;
  if (isPlain && isFilm) return <video src={address} aria-label={label} autoPlay loop muted playsInline />;
  if (isPlain) return <img src={address} alt={label} />;
  return <canvas ref={canvas} role="img" aria-label={label} />;
}

function holdReel(canvas: HTMLCanvasElement, data: string, follow: Follow, cannot: () => void) {
  const reel = reelOf(data);
  return reel ? follow((t) => reel.show(canvas, t)) : cannot();
}

function holdFilm(canvas: HTMLCanvasElement, data: string, follow: Follow, cannot: () => void) {
  if (!isDecodable(data)) return cannot();
  const stop = follow((t) => showFilm(canvas, data, t, cannot));
  return () => {
    stop();
    endFilm(canvas);
  };
}
