import { Button } from 'antd';
import { useState } from 'react';
import type { Retimed } from '../../../api/answers';
import { api } from '../../../api/client';
import { NumberField } from '../../../shared/ui/Field';
import { Choice } from '../../../shared/ui/Choice';
import { attempt, useBench } from '../bench';

type By = 'factor' | 'length' | 'frames';

const WAYS: Record<By, { label: string; field: string; unit: string; step: number; hint: string }> = {
  factor: { label: 'factor', field: 'times as long', unit: '×', step: 0.1, hint: '0.8 is a fifth less time' },
  length: { label: 'length', field: 'in all', unit: 'ms', step: 10, hint: 'the loop, or a run that ends' },
  frames: { label: 'frames', field: 'on frames at', unit: 'fps', step: 1, hint: 'every start and end on a frame' },
};

/** The whole piece faster, slower, to a length or to frames; shown before it is done. */
export function Retime() {
  const id = useBench((b) => b.id);
  const run = useBench((b) => b.run);
  const revision = useBench((b) => b.revision);
  const [by, setBy] = useState<By>('factor');
  // What was asked for holds for the revision that it was asked of.
  const [asked, setAsked] = useState<{ value: number; answer: Retimed; revision: number } | null>(null);
  const now = run.loop_ms ?? run.total_ms;
  if (!now) return null;
  const shown = asked?.revision === revision ? asked : null;
  const way = WAYS[by];
  const resting = { factor: 1, length: now, frames: 60 }[by];
  const ask = async (value: number) => setAsked({ value, answer: await api.retime(id, by, value), revision });
  const take = async () => {
    if (shown && (await attempt({ label: shown.answer.label, patch: shown.answer.patch }))) setAsked(null);
  };
  return (
    <section className="retime">
      <h3>Retime</h3>
      <Choice<By>
        block
        aria-label="Retime by"
        value={by}
        options={(Object.keys(WAYS) as By[]).map((value) => ({ value, label: WAYS[value].label }))}
        onChange={(value) => {
          setBy(value);
          setAsked(null);
        }}
      />
      <NumberField key={by} label={way.field} name={`Retime ${way.label}`} unit={way.unit} step={way.step} value={shown?.value ?? resting} commit={ask} />
      {shown ? (
        <>
          <p>
            <span className="mono">{now} → {shown.answer.loop_ms ?? shown.answer.total_ms} ms</span>
            {!shown.answer.patch.length && <span className="quiet"> · nothing would change</span>}
          </p>
          <div className="pairs">
            <Button type="primary" disabled={!shown.answer.patch.length} onClick={() => void take()}>
              Take it
            </Button>
            <Button onClick={() => setAsked(null)}>Leave it</Button>
          </div>
        </>
      ) : (
        <p className="quiet">{way.hint}</p>
      )}
    </section>
  );
}
