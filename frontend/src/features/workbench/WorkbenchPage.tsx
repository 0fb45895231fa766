import type { CSSProperties } from 'react';
import { Divider, useHeight } from '../../shared/ui/Divider';
import { useArtwork } from './artwork';
import { choose } from './choosing';
import { BenchFrame } from './BenchFrame';
import { Inspector } from './inspector/Inspector';
import { LayersPanel } from './layers/LayersPanel';
import { Score } from './score/Score';
import { LoopStage } from './stage/LoopStage';
import { SHORTCUTS } from './shortcuts';
import { PoseStage } from './stage/PoseStage';
import './workbench.css';

const KEYS = Object.keys(SHORTCUTS).filter((group) => group !== 'Rehearse');

export const WorkbenchPage = () => <BenchFrame view={Workbench} keys={KEYS} />;

function Workbench() {
  useArtwork();
  const score = useHeight('score');
  const height = score === undefined ? undefined : ({ '--score': `${score}px` } as CSSProperties);
  return (
    <div className="bench-body">
      <LayersPanel />
      <div className="bench-middle" style={height}>
        <div
          className="stages"
          onPointerDown={(e) => e.target === e.currentTarget && choose({ layer: null, transition: null })}
        >
          <PoseStage />
          <LoopStage />
        </div>
        <Divider of="score" label="Height of the score" least={140} most={520} />
        <Score />
      </div>
      <Inspector />
    </div>
  );
}
