import { useEffect, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { api } from '../../../api/client';
import { pictureOf } from '../../player';
import { useBench } from '../bench';

const MOST = { width: 54, height: 34 };
/** While edits follow each other more quickly than this, the picture waits. */
const SETTLED_MS = 250;
/** A server that is busy or away is asked again after this. */
const AGAIN_MS = 1500;

/** A state in small, drawn by the server: as elements, all states of a large piece would slow down each frame of the loop. */
const THUMB = {
  display: 'grid',
  placeItems: 'center',
  width: 58,
  height: 38,
  overflow: 'hidden',
  background: 'var(--ground)',
  pointerEvents: 'none',
} as const;

export function Thumb({ state }: { state: string }) {
  const picture = useBench(useShallow((b) => pictureOf(b.document, b.layers)));
  const pose = useBench((b) => b.poses[state]);
  const [address, setAddress] = useState<string | null>(null);
  const { width, height } = picture;
  const zoom = Math.min(MOST.width / width, MOST.height / height);
  const scale = zoom * window.devicePixelRatio;
  const first = address === null;
  useEffect(() => {
    const image = new Image();
    let timer = 0;
    const ask = () => {
      const { id, revision, holds } = useBench.getState();
      image.src = api.stateAddress(id, state, scale, `${revision} ${holds}`);
      // The one before stays until this one is there.
      image.onload = () => setAddress(image.src);
      image.onerror = () => (timer = window.setTimeout(ask, AGAIN_MS));
    };
    timer = window.setTimeout(ask, first ? 0 : SETTLED_MS);
    return () => {
      clearTimeout(timer);
      image.onload = image.onerror = null;
      // Asked for in vain: the server need not draw it.
      image.src = '';
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- that there is one now is no reason for another
  }, [pose, picture, state, scale]);
  // As many px as it was drawn with, so that none is blurred.
  const px = (length: number) => Math.max(Math.round(length * scale), 1) / window.devicePixelRatio;
  return (
    <span className="thumb" style={THUMB}>
      {address && <img src={address} width={px(width)} height={px(height)} alt="" />}
    </span>
  );
}
