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
  return (
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
  );
}
