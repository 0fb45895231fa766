import { useCallback, useLayoutEffect, useMemo, useRef } from 'react';
import type { Drawn, Piece, Pose, Run } from '../../api/contract';
import type { Clock } from './clock';
import { Playing } from './playing';
import { Scene, type Picture as SceneOf } from './scene';
import './scene.css';
import type { Tape } from './tape';
import { known } from '../../shared/known';

/** A scene, and whose it is. */
export interface Picture extends SceneOf {
  id: string;
}

/** `drawn` are the layers with what stands in placements, where there are any. */
export const pictureOf = (piece: Piece, drawn?: Picture['layers'] | null): Picture => {
  const { id, layers, width, height, ground, sections, clips } = piece;
  return { id, layers: drawn ?? layers, width, height, ground, sections, clips };
};

/** All that can be posed: a content that is longer than its screen spread out, and what waits beyond the edge too. */
export function sheetOf(piece: Piece, drawn?: Picture['layers'] | null): Picture {
  const long = (piece.sections ?? []).reduce((sum, { height }) => sum + height, 0);
  const spread = spreadOut(drawn ?? piece.layers ?? []);
  return {
    ...pictureOf(piece, long ? spread : drawn),
    height: Math.max(long, piece.height),
    sections: undefined,
    clips: false,
  };
}

/** Once for each list of layers, so that a scene is not made anew for nothing. */
const spreads = new WeakMap<readonly Drawn[], readonly Drawn[]>();
function spreadOut(layers: readonly Drawn[]): readonly Drawn[] {
  const spread = spreads.get(layers) ?? layers.map(unpinned);
  spreads.set(layers, spread);
  return spread;
}

const unpinned = (layer: Drawn): Drawn => (layer.pinned ? { ...layer, pinned: false } : layer);

/** A scene of the piece, made anew only when its layers or its size change. */
function useScene(piece: Picture, zoom: number) {
  const holder = useRef<HTMLDivElement>(null);
  const { layers, width, height, ground, sections, clips } = piece;
  const scene = useMemo(
    () => new Scene({ layers, width, height, ground, sections, clips }),
    [layers, width, height, ground, sections, clips],
  );
  useLayoutEffect(() => {
    known(holder.current).replaceChildren(scene.root);
    scene.zoom(zoom);
  }, [scene, zoom]);
  return { holder, scene, size: { width: width * zoom, height: height * zoom } };
}

interface PoseProps {
  piece: Picture;
  pose: Pose;
  zoom: number;
  onScene?: (scene: Scene) => void;
}

/** One pose, standing still. */
export function PoseView({ piece, pose, zoom, onScene }: PoseProps) {
  const { holder, scene, size } = useScene(piece, zoom);
  useLayoutEffect(() => scene.show(pose), [scene, pose]);
  useLayoutEffect(() => onScene?.(scene), [scene, onScene]);
  return <div ref={holder} className="holder" style={size} data-piece={piece.id} />;
}

interface LoopProps {
  piece: Picture;
  poses: Record<string, Pose>;
  run: Run;
  tape: Tape;
  clock: Clock;
  zoom: number;
  /** Whenever a moment has been shown. */
  onShown?: (scene: Scene) => void;
}

/** The run, playing by the clock. */
export function LoopView({ piece, poses, run, tape, clock, zoom, onShown }: LoopProps) {
  const { holder, scene, size } = useScene(piece, zoom);
  const playing = useMemo(() => {
    const under = () => {
      const below = new Scene(piece);
      below.root.classList.add('under');
      below.root.style.transform = scene.root.style.transform;
      scene.root.before(below.root);
      return below;
    };
    return new Playing(scene, under);
    // A scene is made anew whenever what is used of the piece changes.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [scene]);
  const show = useCallback(
    (moment: number) => {
      playing.show(moment, clock.t);
      onShown?.(scene);
    },
    [playing, clock, scene, onShown],
  );
  useLayoutEffect(() => playing.load(poses, run, tape), [playing, poses, run, tape]);
  useLayoutEffect(() => show(clock.moment), [show, poses, run, tape, clock]);
  useLayoutEffect(() => clock.listen(show), [clock, show]);
  return <div ref={holder} className="holder playing" style={size} data-piece={piece.id} />;
}
