import { Checkbox } from 'antd';
import { useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Transition } from '../../../api/contract';
import { sameValue } from '../../../shared/text/values';
import { Choice } from '../../../shared/ui/Choice';
import { attempt, make, useBench } from '../bench';
import { chooseWays } from '../choosing';
import { changedLike, setTransitions, type Timing } from '../edits';
import { CueFields } from './CueFields';
import { WaysBy } from './WaysBy';
import { STYLES } from './styles';
import { TimingEditor } from './TimingEditor';
import { transitionNamed } from '../tree';
import { lastOf } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** Several transitions set at once. What they differ in is said, and stays until it is set. */
export function ManyTransitions({ ids }: { ids: readonly string[] }) {
  const ways = useBench(useShallow((b) => ids.map((id) => transitionNamed(b.document, id))));
  const last = lastOf(ways);
  const reading = useBench((b) => b.readings[last.id]);
  const [lanesToo, setLanesToo] = useState(false);
  const own = ways.reduce((sum, way) => sum + (way.lanes ?? []).filter((lane) => lane.timing).length, 0);
  const now = () => useBench.getState().document;
  const differ = (read: (way: Transition) => unknown) =>
    ways.some((way) => !sameValue(read(way) as never, read(last) as never));
  const set = (label: string, valuesOf: (own: Transition) => Partial<Transition>) =>
    setTransitions(now(), ids, label, valuesOf);
  const retimed =
    (before: Timing, after: Timing) =>
    (way: Transition): Partial<Transition> => ({
      timing: changedLike(way.timing, before, after),
      ...(lanesToo && way.lanes?.length ? { lanes: way.lanes.map((lane) => ({ ...lane, timing: null })) } : {}),
    });
  return (
    <>
      <small className="quiet">what is set here is set in all of them</small>
      <h2>{ids.length} transitions</h2>
      <CueFields ways={ways} />
      <Choice
        block
        aria-label="Style"
        {...(!differ((way) => way.style ?? 'tween') && { value: last.style ?? 'tween' })}
        options={STYLES}
        onChange={(style) => void attempt(set('Style', () => ({ style })))}
      />
      <TimingEditor
        timing={last.timing}
        mixed={differ((way) => way.timing)}
        reading={reading}
        commit={(timing) => make(set('Timing', retimed(last.timing, timing)))}
      />
      {own > 0 && (
        <Checkbox checked={lanesToo} onChange={(event) => setLanesToo(event.target.checked)}>
          also {own === 1 ? 'the lane that has' : `the ${own} lanes that have`} a timing of its own
        </Checkbox>
      )}
      <span className="spring" />
      <WaysBy last={last} />
      <PlainButton onClick={() => chooseWays([last.id])}>back to one</PlainButton>
    </>
  );
}
