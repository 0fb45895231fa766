import { memo } from 'react';
import type { Transition, TransitionReading } from '../../../api/answers';
import { PoseView } from '../../player';
import { attempt, choose, useBench } from '../bench';
import { addTransition } from '../edits';

const THUMB = { width: 54, height: 34 };

export const StateHead = memo(function StateHead({ id }: { id: string }) {
  const piece = useBench((b) => b.document)!;
  const pose = useBench((b) => b.poses[id]);
  const chosen = useBench((b) => b.state === id);
  const state = piece.states.find((s) => s.id === id)!;
  const zoom = Math.min(THUMB.width / piece.width, THUMB.height / piece.height);
  return (
    <th className={`state-head${chosen ? ' chosen' : ''}`} scope="col">
      <button aria-pressed={chosen} onClick={() => choose({ state: id })} title={state.name} data-state={id}>
        <span className="thumb">{pose && <PoseView piece={piece} pose={pose} zoom={zoom} />}</span>
        <span className="state-name">
          {piece.start === id && <span className="starts" title="The piece starts here" />}
          {state.name}
        </span>
      </button>
    </th>
  );
});

export function WayHead({ transition }: { transition: Transition }) {
  const chosen = useBench((b) => b.transition === transition.id);
  const reading = useBench((b) => b.readings[transition.id]);
  const cut = transition.style === 'cut';
  return (
    <th className={`way-head${chosen ? ' chosen' : ''}`} scope="col">
      <button aria-pressed={chosen} data-transition={transition.id} aria-label={`Transition ${transition.from} to ${transition.to}`} onClick={() => choose({ transition: transition.id, lane: null })}>
        <span className="hold">{(transition.cue ?? 'hold') === 'hold' ? `hold ${transition.hold_ms ?? 0}` : transition.cue}</span>
        <svg width="40" height="26" viewBox="-1 -5 42 34" aria-hidden="true" className={cut ? 'cut' : ''}>
          {cut ? <path d="M0 27H20V1H40" /> : reading && <path d={curvePath(reading, 40, 26)} />}
        </svg>
        <span className={cut ? 'length cut' : 'length'}>{cut ? 'cut' : `${reading?.length_ms ?? '…'} ms`}</span>
      </button>
    </th>
  );
}

/** SVG path data of a curve in a box of this size, progress 0 at its foot and 1 at its top. */
export function curvePath(reading: Pick<TransitionReading, 'curve'>, width: number, height: number): string {
  return reading.curve.map(([u, p], i) => `${i ? 'L' : 'M'}${(u * width).toFixed(1)} ${(height * (1 - p) + 1).toFixed(1)}`).join('');
}

export function GapHead({ from, to }: { from: string; to: string }) {
  const piece = useBench((b) => b.document)!;
  const name = piece.states.find((s) => s.id === to)!.name;
  const ends = piece.states.at(-1)?.id === from;
  const join = async () => {
    const edit = addTransition(piece, from, to);
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
