import { useDeferredValue, useMemo } from 'react';
import { line } from '../../../shared/drawing/paint';
import type { Layer, Pose } from '../../../api/contract';
import { chainTo, matrixOf } from '../../../shared/geometry/matrix';
import { walk } from '../tree';

const PLACES = ['x', 'y', 'width', 'height', 'rotation', 'scale_x', 'scale_y'] as const;

interface Props {
  layers: readonly Layer[];
  pose: Pose;
  before: Pose;
  zoom: number;
}

/** Dashed outlines of what stood elsewhere in the state before. */
export function Ghosts(props: Props) {
  const { layers, pose, before, zoom } = useDeferredValue(props);
  const shapes = useMemo(() => outlines(layers, pose, before), [layers, pose, before]);
  return (
    <svg className="ghosts overlay" aria-hidden="true">
      <g {...line('ink', 1, '3 3')} strokeOpacity={0.55} transform={`scale(${zoom})`}>
        {shapes.map(({ id, matrix, ...shape }) => (
          <g key={id} transform={matrix}>
            {shape.path ? (
              <path vectorEffect="non-scaling-stroke" d={shape.path} transform={shape.stretch} />
            ) : (
              <rect vectorEffect="non-scaling-stroke" width={shape.width} height={shape.height} rx={shape.radius} />
            )}
          </g>
        ))}
      </g>
    </svg>
  );
}

interface Outline {
  id: string;
  matrix: string;
  width: number;
  height: number;
  radius: number;
  path?: string;
  stretch?: string;
}

function outlines(layers: readonly Layer[], pose: Pose, before: Pose): Outline[] {
  const moved = (id: string) => PLACES.some((name) => pose[id]?.[name] !== before[id]?.[name]);
  return walk(layers).flatMap(({ layer }): Outline[] => {
    const look = before[layer.id];
    const chain = chainTo(layers, layer.id);
    if (layer.kind === 'group' || layer.kind === 'text' || !look || !chain.some((l) => moved(l.id))) return [];
    const [width, height] = [Number(look.width), Number(look.height)];
    const path =
      layer.kind === 'path'
        ? { path: layer.path, stretch: `scale(${width / layer.view_width} ${height / layer.view_height})` }
        : {};
    const radius = layer.kind === 'ellipse' ? Math.min(width, height) / 2 : Number(look.radius_top_left ?? 0);
    const { a, b, c, d, e, f } = matrixOf(chain, before);
    return [
      {
        id: layer.id,
        matrix: `matrix(${[a, b, c, d, e, f].map((v) => v.toFixed(4)).join(' ')})`,
        width,
        height,
        radius,
        ...path,
      },
    ];
  });
}
