import { useEffect, useState } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import type { Point } from '../../../shared/geometry/matrix';
import { api } from '../../../api/client';
import { useBench } from '../bench';

const EVERY_MS = 20;
/** Every so many points a tick: at equal times, so that dense ticks are slow. */
const TICK = 2;

/** The way of a layer through the whole run, with ticks at equal times. */
export function MotionPath({ id, zoom }: { id: string; zoom: number }) {
  const piece = useBench((b) => b.id);
  const revision = useBench((b) => b.revision);
  const total = useBench((b) => b.run.total_ms);
  const [points, setPoints] = useState<readonly Point[]>([]);
  // Long runs get their points further apart.
  const every = Math.max(EVERY_MS, Math.ceil(total / 2000));
  useEffect(() => {
    let wanted = true;
    api
      .path(piece, { layer: id, every_ms: every })
      .then((answer) => wanted && setPoints(answer.points))
      .catch(() => wanted && setPoints([]));
    return () => {
      wanted = false;
    };
  }, [piece, revision, id, every]);
  if (points.length < 2) return null;
  const at = points.map(([x, y]) => [x * zoom, y * zoom] as Point);
  return (
    <svg className="motion-path overlay" aria-hidden="true" data-path={id}>
      <polyline {...line('coral')} strokeOpacity={0.6} points={at.map((p) => p.join(',')).join(' ')} />
      {at
        .filter((_, i) => i % TICK === 0)
        .map(([x, y], i) => (
          <circle key={i} {...area('coral')} cx={x} cy={y} r={1.6} />
        ))}
    </svg>
  );
}
