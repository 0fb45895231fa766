import { Flex } from 'antd';
import { Chip } from '../../../shared/ui/Chip';
import { sayFault, useBench } from '../bench';
import { closeLoop, CLOSINGS, type Closing } from '../edits';
import { tryOut, useTrial } from '../trial';
import { jumpText } from '../score/columns';
import { TrialResult } from './TrialResult';
import { known } from '../../../shared/known';

const WAYS: [Closing, string, string][] = [
  ['tween', 'tween back', 'From the last look to the first, in motion'],
  ['cross-fade', 'cross-fade', 'The first look comes through the last one'],
  ['same', 'begin as it ends', 'The first state takes the look of the last: nothing is left to jump'],
];

/** What closes a run that ends, or whose seam jumps; each way is played before one is taken. */
export function CloseLoop() {
  const run = useBench((b) => b.run);
  const seam = useBench((b) => b.seam);
  const tried = useTrial((t) => t.trial?.edit.label);
  const ends = run.loop_ms === null && run.segments.length > 0;
  if (!ends && !seam?.open) return null;
  const offered = Object.values(CLOSINGS).some((label) => label === tried);
  return (
    <Flex vertical gap={8} component="section" className="retime" aria-label="Close the loop">
      <h3>Close the loop</h3>
      <p className="quiet">{ends ? 'It plays once and ends.' : `Its seam jumps: ${jumpText(known(seam))}.`}</p>
      <Flex wrap gap={5}>
        {WAYS.map(([how, label, title]) => (
          <Chip
            key={how}
            title={title}
            pressed={tried === CLOSINGS[how]}
            onClick={() => void tryOut(closeLoop(useBench.getState().document, run, how)).catch(sayFault)}
          >
            {label}
          </Chip>
        ))}
      </Flex>
      {offered && <TrialResult />}
    </Flex>
  );
}
