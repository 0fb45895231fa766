import { Segmented, Select } from 'antd';
import { memo, useDeferredValue } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Transition } from '../../../api/answers';
import { attempt, choose, make, namedOf, useBench } from '../bench';
import { addTransition, removeTransition, setLane, setTransition, type Timing } from '../edits';
import { placed } from '../tree';
import { CueFields } from './CueFields';
import { Lanes } from './Lanes';
import { TimingEditor } from './TimingEditor';

/** The document at the moment of an action. */
const now = () => useBench.getState().document!;

/** When a transition starts, and how it goes. */
export const TransitionInspector = memo(function TransitionInspector({ transition }: { transition: Transition }) {
  const states = useBench(useShallow((b) => b.document!.states.map((s) => `${s.id} ${s.name}`))).map(namedOf);
  const number = useBench((b) => (b.document!.transitions ?? []).findIndex((t) => t.id === transition.id) + 1);
  const lane = useBench((b) => b.lane);
  const reading = useDeferredValue(useBench((b) => b.readings[transition.id]));
  const name = (id: string) => states.find((s) => s.id === id)!.name;
  const set = (label: string, values: Partial<Transition>) => setTransition(now(), transition.id, label, values);
  const style = transition.style ?? 'tween';
  const laneLayer = useBench((b) => (lane ? placed(b.document!, lane)?.layer : undefined));
  const own = (transition.lanes ?? []).findIndex((l) => l.layer === lane && !l.property);
  const laneTiming = own >= 0 ? transition.lanes![own]!.timing : null;
  const laneReading = own >= 0 ? reading?.lanes[own] : null;
  return (
    <>
      <p className="kicker">Transition {number}</p>
      <h2>
        {name(transition.from)} <span className="arrow">→</span>{' '}
        <Select
          variant="borderless"
          size="small"
          aria-label="Leads to"
          value={transition.to}
          popupMatchSelectWidth={false}
          options={states.filter((s) => s.id !== transition.from).map((s) => ({ value: s.id, label: s.name }))}
          onChange={(to) => void attempt(set(`Lead to ${name(to)}`, { to }))}
        />
      </h2>
      <CueFields transition={transition} />
      <Segmented<NonNullable<Transition['style']>>
        block
        aria-label="Style"
        value={style}
        options={[
          { value: 'tween', label: 'Tween' },
          { value: 'cut', label: 'Cut' },
          { value: 'cross-fade', label: 'Cross-fade', title: 'The new look comes through the old one' },
        ]}
        onChange={(value) => void attempt(set('Style', { style: value }))}
      />
      {style === 'cut' ? (
        <p className="quiet">The next state is shown at once. Duration and curve are kept for when it tweens again.</p>
      ) : laneLayer ? (
        <>
          <div className="lane-head">
            <strong>{laneLayer.name}</strong>
            <span className="spring" />
            {laneTiming && (
              <button className="plain" onClick={() => void attempt(setLane(now(), transition.id, laneLayer.id, { timing: null }))}>
                as the transition
              </button>
            )}
            <button className="plain" onClick={() => choose({ lane: null })}>
              back to all
            </button>
          </div>
          {!laneTiming && <p className="quiet">Has the timing of the transition. A change here gives it its own.</p>}
          <TimingEditor
            key={laneLayer.id}
            timing={laneTiming ?? transition.timing}
            reading={laneReading ?? reading}
            commit={(timing) => make(setLane(now(), transition.id, laneLayer.id, { timing }))}
          />
        </>
      ) : (
        <TimingEditor timing={transition.timing} reading={reading} commit={(timing: Timing) => make(set('Timing', { timing }))} />
      )}
      {style === 'tween' && <Lanes transition={transition} />}
      <span className="spring" />
      <div className="inspector-foot">
        <button className="plain" onClick={() => void attempt(addTransition(now(), transition.to, transition.from))}>
          + way back
        </button>
        <span className="spring" />
        <button className="plain" onClick={() => void attempt(removeTransition(now(), transition.id))}>
          delete transition
        </button>
      </div>
    </>
  );
});
