import { Flex } from 'antd';
import { useState } from 'react';
import { api } from '../../../api/client';
import { NumberField } from '../../../shared/ui/Field';
import { Choice } from '../../../shared/ui/Choice';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attemptCommit, useBench } from '../bench';
import { playWays } from '../course';
import { leaveTrial, tryOut, useTrial } from '../trial';
import { useWatch } from '../watch/watch';
import { TrialResult } from './TrialResult';

type By = 'factor' | 'length' | 'frames';

const WAYS: Record<By, { label: string; field: string; unit: string; step: number; hint: string }> = {
  factor: { label: 'factor', field: 'times as long', unit: '×', step: 0.1, hint: '0.8 is a fifth less time' },
  length: { label: 'length', field: 'in all', unit: 'ms', step: 10, hint: 'the loop, or a run that ends' },
  frames: { label: 'frames', field: 'on frames at', unit: 'fps', step: 1, hint: 'every start and end on a frame' },
};

const BYS = Object.keys(WAYS) as By[];

/** The whole piece faster, slower, to a length or to frames; played before it is done. */
export function Retime() {
  const id = useBench((b) => b.id);
  const run = useBench((b) => b.run);
  const tried = useTrial((t) => t.trial?.edit);
  const fps = useWatch((w) => w.fps);
  const [by, setBy] = useState<By>('factor');
  const [asked, setAsked] = useState<{ value: number; label: string } | null>(null);
  const now = run.loop_ms ?? run.total_ms;
  const hasWays = useBench((b) => !!b.document.transitions?.length);
  const hasCopies = useBench((b) => Object.keys(b.originals).length > 0);
  if (!hasWays) return null;
  if (hasCopies) return <CopiesGoTheirOwnWay />;
  const shown = asked && asked.label === tried?.label ? asked : null;
  const way = WAYS[by];
  const resting = { factor: 1, length: now, frames: fps }[by];
  const ask = async (value: number) => {
    // Of a piece that waits for somebody, the transitions are what can be seen.
    if (!now) playWays('all');
    const edit = await api.retime(id, { by, value });
    await tryOut(edit);
    setAsked({ value, label: edit.label });
  };
  return (
    <Flex vertical gap={8} component="section" className="retime">
      <h3>Retime</h3>
      <Choice<By>
        block
        aria-label="Retime by"
        value={by}
        options={BYS.filter((value) => now || value !== 'length').map((value) => ({ value, label: WAYS[value].label }))}
        onChange={(value) => {
          setBy(value);
          leaveTrial();
        }}
      />
      <NumberField
        key={by}
        label={way.field}
        name={`Retime ${way.label}`}
        unit={way.unit}
        step={way.step}
        value={shown?.value ?? resting}
        commit={ask}
      />
      {shown ? (
        <TrialResult />
      ) : (
        <p className="quiet">
          {way.hint}
          {by === 'frames' && (
            <>
              {'. '}
              <PlainButton onClick={() => void attemptCommit(ask(resting))}>Try {resting} fps</PlainButton>
            </>
          )}
        </p>
      )}
    </Flex>
  );
}

/** Said before anything is tried: their times are not this piece's. */
const CopiesGoTheirOwnWay = () => (
  <Flex vertical gap={8} component="section" className="retime">
    <h3>Retime</h3>
    <p className="quiet">
      What stands in this piece goes by the times of its originals: retime those, and the transitions here one by one.
    </p>
  </Flex>
);
