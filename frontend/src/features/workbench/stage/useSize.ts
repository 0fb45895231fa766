import { useLayoutEffect, useRef, useState } from 'react';
import { known } from '../../../shared/known';

/** The size of an element in px, kept up to date. */
export function useSize<T extends HTMLElement>() {
  const ref = useRef<T>(null);
  const [size, setSize] = useState({ width: 400, height: 400 });
  useLayoutEffect(() => {
    const element = known(ref.current);
    const measure = () => setSize({ width: element.clientWidth, height: element.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return { ref, size };
}

/** The zoom that fits a piece with room around it. */
export function fit(stage: { width: number; height: number }, piece: { width: number; height: number }): number {
  const zoom = Math.min((stage.width - 132) / piece.width, (stage.height - 132) / piece.height);
  return Math.max(Math.min(zoom, 2), 0.05);
}
