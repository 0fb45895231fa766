import { Flex, Select } from 'antd';
import { memo, useDeferredValue } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Run, Transition } from '../../../api/contract';
import { Choice } from '../../../shared/ui/Choice';
import { addStateBetween, addWayBack } from '../actions';
import { goRound } from '../goRound';
import { attempt, clock, make, namedOf, useBench } from '../bench';
import { playWays } from '../course';
import { removeTransition, setTransition, type Timing } from '../edits';
import { placeOf } from '../tree';
import { AsLongAs } from './AsLongAs';
import { CueFields } from './CueFields';
import { Lanes } from './Lanes';
import { LaneTiming } from './LaneTiming';
import { STYLES } from './styles';
import { OfferChip } from './Offered';
import { TimingEditor } from './TimingEditor';
import { WaysBy } from './WaysBy';
import { known } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** The document at the moment of an action. */
const now = () => useBench.getState().document;

/** ms that are shown before and after a transition that is played alone */
const AROUND_MS = 250;

/** From when to when a transition is gone through, with some rest around it; none where the run does not pass it. */
function partOf(run: Run, id: string): [number, number] | null {
  const at = run.segments.findIndex((segment, i) => segment.kind === 'travel' && run.transitions[i] === id);
  const segment = run.segments[at];
  return segment
    ? [Math.max(segment.start_ms - AROUND_MS, 0), Math.min(segment.end_ms + AROUND_MS, run.total_ms)]
    : null;
}

/** Each time that the run begins it. */
const startsOf = (run: Run, id: string) =>
  run.segments
    .filter((segment, i) => segment.kind === 'travel' && run.transitions[i] === id)
    .map((segment) => segment.start_ms);

/** When a transition starts, and how it goes. */
export const TransitionInspector = memo(function TransitionInspector({ transition }: { transition: Transition }) {
  const number = useBench((b) => (b.document.transitions ?? []).findIndex((t) => t.id === transition.id) + 1);
  const laneId = useBench((b) => b.lane);
  const asked = useBench((b) => b.laneProperty);
  const property = transition.lanes?.some((own) => own.layer === laneId && own.property === asked) ? asked : null;
  const lane = useBench((b) => (laneId ? placeOf(b.document, laneId)?.layer : undefined));
  const reading = useDeferredValue(useBench((b) => b.readings[transition.id]));
  const starts = useBench(useShallow((b) => startsOf(b.run, transition.id)));
  const style = transition.style ?? 'tween';
  return (
    <>
      <small className="quiet">Transition {number}</small>
      <Ends transition={transition} />
      <CueFields ways={[transition]} />
      <Choice<NonNullable<Transition['style']>>
        block
        aria-label="Style"
        value={style}
        options={STYLES}
        onChange={(value) => void attempt(set(transition, 'Style', { style: value }))}
      />
      {style === 'cut' ? (
        <p className="quiet">The next state is shown at once. Duration and curve are kept for when it tweens again.</p>
      ) : lane ? (
        <LaneTiming transition={transition} layer={lane} property={property} reading={reading} />
      ) : (
        <TimingEditor
          timing={transition.timing}
          reading={reading}
          starts={starts}
          commit={(timing: Timing) => make(set(transition, 'Timing', { timing }))}
        />
      )}
      {style === 'tween' && !lane && <OfferedTimes transition={transition} />}
      {style === 'tween' && <Lanes transition={transition} />}
      {!lane && (
        <WaysBy last={transition}>
          <AsLongAs transition={transition} />
        </WaysBy>
      )}
      <span className="spring" />
      <Foot transition={transition} />
    </>
  );
});

const set = ({ id }: Transition, label: string, values: Partial<Transition>) => setTransition(now(), id, label, values);

/** From which state, and to which. */
function Ends({ transition }: { transition: Transition }) {
  const states = useBench(useShallow((b) => b.document.states.map((s) => `${s.id} ${s.name}`))).map(namedOf);
  const name = (id: string) => known(states.find((s) => s.id === id)).name;
  return (
    <h2>
      <End
        label="Leads from"
        value={transition.from}
        states={states.filter((s) => s.id !== transition.to)}
        onChange={(from) => void attempt(set(transition, `Lead from ${name(from)}`, { from }))}
      />{' '}
      <span className="arrow">→</span>{' '}
      <End
        label="Leads to"
        value={transition.to}
        states={states.filter((s) => s.id !== transition.from)}
        onChange={(to) => void attempt(set(transition, `Lead to ${name(to)}`, { to }))}
      />
    </h2>
  );
}

interface EndProps {
  label: string;
  value: string;
  states: { id: string; name: string }[];
  onChange: (state: string) => void;
}

const End = ({ label, value, states, onChange }: EndProps) => (
  <Select
    variant="borderless"
    size="small"
    aria-label={label}
    value={value}
    popupMatchSelectWidth={false}
    options={states.map((s) => ({ value: s.id, label: s.name }))}
    onChange={onChange}
  />
);

/** Where the piece stands in another, each copy may take its own time. */
function OfferedTimes({ transition: { id, timing, early_ms } }: { transition: Transition }) {
  const hasDuration = timing.kind !== 'spring';
  if (!hasDuration && early_ms) return null;
  return (
    <div className="chips">
      <span className="quiet">copies may set</span>
      {hasDuration && <OfferChip kind="time" bind={{ transition: id }} label="its duration" name="duration" />}
      {!early_ms && <OfferChip kind="time" bind={{ transition: id, hold: true }} label="the hold" name="hold" />}
    </div>
  );
}

/** What else can be done with it. */
function Foot({ transition }: { transition: Transition }) {
  const { id } = transition;
  const alone = useBench(useShallow((b) => partOf(b.run, id)));
  // Off the run it is played all the same.
  const play = () => {
    playWays(alone ? null : { only: id });
    if (alone) clock.setPart(alone, (run) => partOf(run, id));
  };
  return (
    <Flex align="center" wrap>
      <PlainButton title="Only this transition, over and over" onClick={play}>
        play alone
      </PlainButton>
      <PlainButton
        title="A state in the middle, with every value halfway"
        onClick={() => void addStateBetween(transition.id)}
      >
        + halfway
      </PlainButton>
      <PlainButton
        title="A transition from the second state to the first: in the same time, on the opposite cue"
        onClick={() => void addWayBack(transition)}
      >
        + way back
      </PlainButton>
      <PlainButton
        title="An undercurrent: what it moves goes there and back on its own, in all states"
        onClick={() => void goRound(transition)}
      >
        as undercurrent
      </PlainButton>
      <span className="spring" />
      <PlainButton onClick={() => void attempt(removeTransition(now(), transition.id))}>delete</PlainButton>
    </Flex>
  );
}
