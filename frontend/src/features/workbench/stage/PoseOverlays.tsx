import { useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Layer, Pose } from '../../../api/contract';
import { chainTo, cornersOf, matrixOf, through, type Point } from '../../../shared/geometry/matrix';
import type { Scene } from '../../player';
import { useBench } from '../bench';
import { around, boxInGroup, boxOf, safeBox, type Box } from '../edits';
import { line } from '../../../shared/drawing/paint';
import { useView } from '../view';
import { boxBetween } from './caught';
import { Frame, PivotGrip } from './Frame';
import { Ghosts } from './Ghosts';
import { gradientOf } from './gradient';
import { GradientHandles } from './GradientHandles';
import { MotionPath } from './MotionPath';
import { OwnLines } from './OwnLines';
import { Pen } from './Pen';
import { Points } from './Points';
import { TextInPlace } from './TextInPlace';
import type { Drag } from './useDrag';
import { onScreen, ownMatrix, type OverLayer } from './useHandles';
import { known, lastOf } from '../../../shared/known';

interface Props {
  picture: { width: number; height: number };
  layers: readonly Layer[];
  pose: Pose;
  /** With what is in the hand where it is just now. */
  shown: Pose;
  zoom: number;
  scene: Scene | null;
  chosen: readonly string[];
  drag: Drag | null;
  area: { from: Point; to: Point } | null;
  pointAt: OverLayer['pointAt'];
  /** The states before and after. */
  neighbours: { before: string | undefined; after: string | undefined };
}

/** What lies over the pose: ghosts, the path of a layer, frames, handles, and what is being drawn. */
export function PoseOverlays({ picture, layers, pose, shown, zoom, scene, chosen, drag, area, ...rest }: Props) {
  const { pointAt, neighbours } = rest;
  const { tool, points, path, pivot, text } = useView(
    useShallow(({ tool, points, path, pivot, text }) => ({ tool, points, path, pivot, text })),
  );
  const [only, another] = chosen;
  const alone = only !== undefined && another === undefined ? only : null;
  const look = alone ? shown[alone] : undefined;
  const over = alone && look ? { id: alone, layers, pose: shown, zoom, scene, pointAt } : null;
  const painted = gradientOf(look);
  const isPath = alone !== null && chainTo(layers, alone).at(-1)?.kind === 'path';
  return (
    <>
      <Safe zoom={zoom} />
      <OwnLines size={picture} zoom={zoom} pointAt={pointAt} />
      <Neighbour layers={layers} pose={pose} zoom={zoom} neighbours={neighbours} />
      {path && alone && <MotionPath id={alone} zoom={zoom} />}
      {chosen.map((id) => {
        const chain = chainTo(layers, id);
        const isThere = chain.length > 0 && chain.every((layer) => shown[layer.id]);
        if (!isThere || id === points) return null;
        return (
          <Frame
            key={id}
            corners={cornersOf(chain, shown)}
            content={contentOf(chain, shown)}
            zoom={zoom}
            guides={id === chosen.at(-1) ? (drag?.guides ?? {}) : {}}
            size={picture}
            grips={chosen.length === 1}
          />
        );
      })}
      {chosen.length > 1 && drag?.held.grip !== 'turn' && (
        <Frame corners={rectangleAround(layers, shown, chosen)} zoom={zoom} guides={{}} size={picture} grips />
      )}
      {over && pivot && !points && <PivotGrip at={onScreen(ownMatrix(over), zoom, pivotIn(over, drag))} />}
      {over && points === alone && isPath && <Points {...over} />}
      {over && text === alone && <TextInPlace key={alone} {...over} />}
      {over && !points && !drag?.moved && painted && <GradientHandles {...over} property={painted} />}
      {(tool === 'pen' || tool === 'line') && <Pen zoom={zoom} pointAt={pointAt} />}
      {area && <Area {...boxBetween(area.from, area.to)} zoom={zoom} />}
    </>
  );
}

/** The corners of the upright box around layers, clockwise. */
function rectangleAround(layers: readonly Layer[], pose: Pose, ids: readonly string[]): Point[] {
  const there = ids.filter((id) => chainTo(layers, id).length && chainTo(layers, id).every(({ id }) => pose[id]));
  if (!there.length) return [];
  return cornersAround(around(there.map((id) => boxOf(layers, pose, id))));
}

const cornersAround = ({ left, top, right, bottom }: Box): Point[] => [
  [left, top],
  [right, top],
  [right, bottom],
  [left, bottom],
];

/** Around what a group holds, where its own box is another; in px of the piece. */
function contentOf(chain: readonly Layer[], pose: Pose): Point[] {
  const group = lastOf(chain);
  const held = (group.kind === 'group' ? (group.layers ?? []) : []).filter(({ id }) => pose[id]);
  const look = known(pose[group.id]);
  if (!held.length || look.layout !== 'none') return [];
  const box = around(held.map((layer) => boxInGroup(layer, pose)));
  const off = [box.left, box.top, box.right - Number(look.width), box.bottom - Number(look.height)];
  if (off.every((px) => Math.abs(px) < 0.5)) return [];
  const matrix = matrixOf(chain, pose);
  return cornersAround(box).map((corner) => through(matrix, corner));
}

/** In px of its layer; where it is being pulled to. */
function pivotIn({ id, pose }: OverLayer, drag: Drag | null): Point {
  const look = { ...known(pose[id]), ...(drag?.held.grip === 'pivot' && drag.looks[id]) };
  return [Number(look.pivot_x) * Number(look.width), Number(look.pivot_y) * Number(look.height)];
}

/** What a device may not cover. */
function Safe({ zoom }: { zoom: number }) {
  const piece = useBench((b) => b.document);
  if (!piece.safe_area) return null;
  const { left, top, right, bottom } = safeBox(piece);
  const box = { x: left * zoom, y: top * zoom, width: (right - left) * zoom, height: (bottom - top) * zoom };
  return (
    <svg className="safe-area overlay" aria-hidden="true">
      <rect {...line('glass', 1, '2 3')} {...box} />
    </svg>
  );
}

/** Where layers are in the state before or after, if that is wanted. */
function Neighbour({ layers, pose, zoom, neighbours }: Pick<Props, 'layers' | 'pose' | 'zoom' | 'neighbours'>) {
  const ghosts = useView((v) => v.ghosts);
  const id = ghosts === 'before' ? neighbours.before : ghosts === 'after' ? neighbours.after : undefined;
  const there = useBench((b) => (id ? b.poses[id] : undefined));
  const outlines = useMemo(() => there && { layers, pose, before: there, zoom }, [layers, pose, there, zoom]);
  return outlines && <Ghosts {...outlines} />;
}

const AREA = {
  position: 'absolute',
  border: '1px dashed var(--glass)',
  background: 'rgb(31 122 112 / 8%)',
  pointerEvents: 'none',
} as const;

const Area = ({ left, top, right, bottom, zoom }: Box & { zoom: number }) => (
  <div
    style={{ ...AREA, left: left * zoom, top: top * zoom, width: (right - left) * zoom, height: (bottom - top) * zoom }}
  />
);
