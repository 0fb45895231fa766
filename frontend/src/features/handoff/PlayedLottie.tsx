import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { api } from '../../api/client';
import type { Follow } from './held';

interface Props {
  address: string;
  title: string;
  /** Held at the moments of others, instead of playing by itself. */
  follow?: Follow;
}

/** A Lottie file, played by a player of its own, which is loaded only here. */
export function PlayedLottie({ address, title, follow }: Props) {
  const into = useRef<HTMLDivElement>(null);
  const { data, error } = useQuery({
    queryKey: ['lottie', address],
    queryFn: async () => {
      const [player, text] = await Promise.all([
        import('lottie-web/build/player/esm/lottie_light.min.js'),
        api.handedText(address),
      ]);
      return { player: player.default, file: JSON.parse(text) as { w: number; h: number } };
    },
  });
  useEffect(() => {
    if (!data || !into.current) return;
    const { player, file } = data;
    // The player writes into what it is given.
    const shown = player.loadAnimation({
      container: into.current,
      renderer: 'svg',
      loop: true,
      autoplay: !follow,
      animationData: structuredClone(file),
    });
    const stop = follow?.((t) => shown.goToAndStop(t, false));
    return () => {
      stop?.();
      shown.destroy();
    };
  }, [data, follow]);
  if (error) return <p role="alert">{error.message}</p>;
  if (!data) return null;
  const { w, h } = data.file;
  return (
    <div ref={into} role="img" aria-label={`The file: ${title}`} style={{ width: w, aspectRatio: `${w} / ${h}` }} />
  );
}
