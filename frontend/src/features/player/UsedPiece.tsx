import { useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import type { Pose } from '../../api/contract';
import type { Event, Tables } from '../../runtime/data';
import { Session, type Told } from '../../runtime/session';
import { known } from '../../shared/known';
import { ScenePictures } from './pictures';
import type { Picture } from './SceneView';
import './scene.css';

interface Props {
  piece: Picture;
  /** The start. */
  pose: Pose;
  tables: Tables;
  zoom: number;
  told: Told;
  /** Of a session that begins, and none when it ends. */
  onSession: (session: Session | null) => void;
}

/** The piece as somebody uses it. An edit begins it anew, with what was done so far. */
export function UsedPiece({ piece, pose, tables, zoom, told, onSession }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const pictures = useRef<ScenePictures | null>(null);
  const before = useRef<{
    script: readonly Event[];
    planned: readonly Event[];
    t: number;
    rate: number;
    playing: boolean;
  } | null>(null);
  const { layers, width, height, ground, sections, clips } = piece;
  const drawn = useMemo(
    () => ({ layers, width, height, ground, sections, clips, pose }),
    [layers, width, height, ground, sections, clips, pose],
  );
  useEffect(() => {
    const element = known(holder.current);
    pictures.current = new ScenePictures(element, drawn, zoom);
    const session = new Session(tables, pictures.current, told);
    if (before.current) {
      const { script, planned, t, rate, playing } = before.current;
      session.planned = planned;
      session.setRate(rate);
      session.replay(script, t);
      session.playing = playing;
    }
    session.listenOn(element);
    session.start();
    onSession(session);
    return () => {
      const { script, planned, now: t, rate, playing } = session;
      before.current = { script, planned, t, rate, playing };
      session.stop();
      onSession(null);
    };
    // The zoom is set below, and needs no new session.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [drawn, tables, told, onSession]);
  useLayoutEffect(() => pictures.current?.setZoom(zoom), [zoom]);
  return (
    <div
      ref={holder}
      className="holder playing used"
      style={{ width: width * zoom, height: height * zoom, touchAction: 'manipulation' }}
      data-piece={piece.id}
      role="group"
      aria-label={tables.name}
    />
  );
}
