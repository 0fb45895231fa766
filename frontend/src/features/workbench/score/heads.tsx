import { memo, useDeferredValue } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Transition, TransitionReading } from '../../../api/answers';
import { PoseView, pictureOf } from '../../player';
import { attempt, choose, useBench } from '../bench';
import { addTransition } from '../edits';

const THUMB = { width: 54, height: 34 };

export const StateHead = memo(function StateHead({ id }: { id: string }) {
  const picture = useBench(useShallow((b) => pictureOf(b.document!)));
  const pose = useDeferredValue(useBench((b) => b.poses[id]));
  const chosen = useBench((b) => b.state === id);
  const name = useBench((b) => b.document!.states.find((s) => s.id === id)?.name);
  const starts = useBench((b) => b.document!.start === id);
  const zoom = Math.min(THUMB.width / picture.width, THUMB.height / picture.height);
  return (
    <th className={`state-head${chosen ? ' chosen' : ''}`} scope="col">
      <button aria-pressed={chosen} onClick={() => choose({ state: id })} title={name} data-state={id}>
        <span className="thumb">{pose && <PoseView piece={picture} pose={pose} zoom={zoom} />}</span>
        <span className="state-name">
          {starts && <span className="starts" title="The piece starts here" />}
          {name}
        </span>
      </button>
    </th>
  );
});

/** What sets it off, in a word or two. */
function whenOf({ cue, hold_ms, early_ms }: Transition): string {
  if ((cue ?? 'hold') !== 'hold') return cue!;
  return early_ms ? `early ${early_ms}` : `hold ${hold_ms ?? 0}`;
}

export const WayHead = memo(function WayHead({ id }: { id: string }) {
  const transition = useBench((b) => b.document!.transitions?.find((t) => t.id === id));
  const chosen = useBench((b) => b.transition === id);
  const reading = useBench((b) => b.readings[id]);
  if (!transition) return <th />;
  const cut = transition.style === 'cut';
  return (
    <th className={`way-head${chosen ? ' chosen' : ''}`} scope="col">
      <button aria-pressed={chosen} data-transition={transition.id} aria-label={`Transition ${transition.from} to ${transition.to}`} onClick={() => choose({ transition: transition.id, lane: null })}>
        <span className="hold">{whenOf(transition)}</span>
        <svg width="40" height="26" viewBox="-1 -5 42 34" aria-hidden="true" className={cut ? 'cut' : ''}>
          {cut ? <path d="M0 27H20V1H40" /> : reading && <path d={curvePath(reading, 40, 26)} />}
        </svg>
        <span className={cut ? 'length cut' : 'length'}>{cut ? 'cut' : `${reading?.length_ms ?? '…'} ms`}</span>
      </button>
    </th>
  );
});

/** SVG path data of a curve in a box of this size, progress 0 at its foot and 1 at its top. */
export function curvePath(reading: Pick<TransitionReading, 'curve'>, width: number, height: number): string {
  return reading.curve.map(([u, p], i) => `${i ? 'L' : 'M'}${(u * width).toFixed(1)} ${(height * (1 - p) + 1).toFixed(1)}`).join('');
}

export function GapHead({ between }: { between: string }) {
  const [from, to] = between.split('>') as [string, string];
  const name = useBench((b) => b.document!.states.find((s) => s.id === to)?.name);
  const ends = useBench((b) => b.document!.states.at(-1)?.id === from);
  const join = async () => {
    const edit = addTransition(useBench.getState().document!, from, to);
    if (await attempt(edit)) choose({ transition: edit.id, lane: null });
  };
  return (
    <th className="gap-head" scope="col">
      <button className="plain" title={`Add a transition to ${name}`} aria-label={`Add a transition to ${name}`} onClick={() => void join()}>
        {ends ? 'end' : '+'}
      </button>
    </th>
  );
}
