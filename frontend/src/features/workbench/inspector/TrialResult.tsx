import { Button } from 'antd';
import type { Run, Seam } from '../../../api/contract';
import { useBench } from '../bench';
import { useCourse } from '../course';
import { jumpText } from '../score/columns';
import { leaveTrial, takeTrial, useTrial } from '../trial';

/** What the edit on trial comes to, beside what there is; to be taken or left. */
export function TrialResult() {
  const trial = useTrial((t) => t.trial);
  const stands = useBench((b) => b.run);
  const run = useCourse((c) => c.run) ?? stands;
  const seam = useBench((b) => b.seam);
  if (!trial) return null;
  const idle = !trial.edit.patch.length;
  const jumps = Boolean(seam?.open || trial.seam?.open);
  return (
    <>
      <p>
        <span className="mono">
          {lengthOf(run)} → {lengthOf(trial.run)} ms
        </span>
        {jumps && (
          <span className="mono">
            {' '}
            · seam {jumpOf(seam)} → {jumpOf(trial.seam)}
          </span>
        )}
        {idle && <span className="quiet"> · nothing would change</span>}
      </p>
      <div className="pairs">
        <Button type="primary" disabled={idle} onClick={() => void takeTrial()}>
          Apply
        </Button>
        <Button onClick={leaveTrial}>Discard</Button>
      </div>
    </>
  );
}

const lengthOf = (run: Run) => run.loop_ms ?? run.total_ms;
const jumpOf = (seam: Seam | null) => (seam ? jumpText(seam) : 'none');
