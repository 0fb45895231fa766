import { useEffect } from 'react';
import { Link, useParams } from 'react-router';
import { useArtwork } from './artwork';
import { choose, load, useBench } from './bench';
import { Notices } from './Notices';
import { Inspector } from './inspector/Inspector';
import { LayersPanel } from './layers/LayersPanel';
import { Score } from './score/Score';
import { LoopStage } from './stage/LoopStage';
import { PoseStage } from './stage/PoseStage';
import { TopBar } from './TopBar';
import { useKeys } from './useKeys';
import './workbench.css';

export function WorkbenchPage() {
  const { id = '' } = useParams();
  useEffect(() => void load(id), [id]);
  useKeys();
  useArtwork();
  const ready = useBench((b) => b.document !== null && b.id === id);
  const fault = useBench((b) => b.fault);
  if (!ready) {
    return (
      <main className="bench-empty">
        {fault ? (
          <p role="alert">
            {fault.message} {fault.remedy} <Link to="/">To the shelf</Link>
          </p>
        ) : (
          'Opening…'
        )}
      </main>
    );
  }
  return (
    <div className="bench">
      <TopBar />
      <Notices />
      <div className="bench-body">
        <LayersPanel />
        <div className="bench-middle">
          <div className="stages" onPointerDown={(e) => e.target === e.currentTarget && choose({ layer: null })}>
            <PoseStage />
            <LoopStage />
          </div>
          <Score />
        </div>
        <Inspector />
      </div>
    </div>
  );
}
