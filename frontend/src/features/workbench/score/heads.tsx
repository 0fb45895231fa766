import { useDraggable, useDroppable } from '@dnd-kit/core';
import { memo, useState, type KeyboardEvent } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import type { Transition, TransitionReading } from '../../../api/contract';
import { addTransition, goToState, moveState, removeState } from '../actions';
import { make, useBench } from '../bench';
import { choose, chooseWayAlso } from '../choosing';
import { renameState } from '../edits';
import { NameField } from '../Rename';
import { Thumb } from './Thumb';
import { known } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';

export const StateHead = memo(function StateHead({ id }: { id: string }) {
  const chosen = useBench((b) => b.state === id);
  const name = useBench((b) => b.document.states.find((s) => s.id === id)?.name ?? '');
  const [renaming, setRenaming] = useState(false);
  const { setNodeRef: dropRef, isOver } = useDroppable({ id });
  const { setNodeRef, listeners, isDragging } = useDraggable({ id });
  const starts = useBench((b) => b.document.start === id);
  return (
    <th
      ref={dropRef}
      className={`state-head${chosen ? ' chosen' : ''}${isDragging ? ' dragged' : ''}${isOver && !isDragging ? ' met' : ''}`}
      scope="col"
    >
      <button
        className="score-head bare"
        ref={setNodeRef}
        {...listeners}
        aria-pressed={chosen}
        onClick={() => choose({ state: id })}
        onDoubleClick={() => setRenaming(true)}
        onKeyDown={(event) => onStateKey(event, id, () => setRenaming(true))}
        title={`${name} · double-click to rename, drag to move`}
        data-state={id}
      >
        <Thumb state={id} />
        <span className="state-name ellipsis" style={{ maxWidth: '100%', fontSize: 11.5, fontWeight: 650 }}>
          {starts && <Starts />}
          {name}
        </span>
      </button>
      {renaming && (
        <NameField
          value={name}
          label="Name of the state"
          commit={(next) => make(renameState(useBench.getState().document, id, next))}
          close={() => setRenaming(false)}
        />
      )}
    </th>
  );
});

const FIGURE = { font: '600 11px var(--mono)' };

const Starts = () => (
  <span title="The piece starts here">
    <svg width={10} height={7} viewBox="0 0 10 7" aria-hidden="true">
      <path {...area('brass')} d="M0 0L6 3.5L0 7Z" />
    </svg>
  </span>
);

/** The neighbours by arrow keys; with Alt the state itself goes there. */
function onStateKey(event: KeyboardEvent, id: string, rename: () => void): void {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (by && event.altKey) void moveState(by);
  else if (by) {
    goToState(by);
    document.querySelector<HTMLElement>(`[data-state="${useBench.getState().state}"]`)?.focus();
  } else if (event.key === 'F2') rename();
  else if (event.key === 'Delete') void removeState();
  else return;
  choose({ state: by && !event.altKey ? useBench.getState().state : id });
  event.preventDefault();
  event.stopPropagation();
}

/** What sets it off, in a word or two. */
function whenOf({ cue, hold_ms, early_ms }: Transition): string {
  if ((cue ?? 'hold') !== 'hold') return known(cue);
  return early_ms ? `early ${early_ms}` : `hold ${hold_ms ?? 0}`;
}

export const WayHead = memo(function WayHead({ id }: { id: string }) {
  const transition = useBench((b) => b.document.transitions?.find((t) => t.id === id));
  const chosen = useBench((b) => b.transition === id || b.alsoWays.includes(id));
  const reading = useBench((b) => b.readings[id]);
  if (!transition) return <th />;
  const cut = transition.style === 'cut';
  return (
    <th className={`way-head${chosen ? ' chosen' : ''}`} scope="col">
      <button
        className="score-head bare"
        aria-pressed={chosen}
        data-transition={transition.id}
        title="Shift and click chooses several"
        onClick={(event) => (event.shiftKey ? chooseWayAlso(id) : choose({ transition: id, lane: null }))}
      >
        <span className="unseen">
          Transition {transition.from} to {transition.to},{' '}
        </span>
        <span className="hold" style={{ ...FIGURE, color: 'var(--brass-text)' }}>
          {whenOf(transition)}
        </span>
        <svg width="40" height="26" viewBox="-1 -5 42 34" aria-hidden="true" {...line(cut ? 'coral' : 'glass', 2)}>
          {cut ? (
            <path vectorEffect="non-scaling-stroke" d="M0 27H20V1H40" />
          ) : (
            reading && <path vectorEffect="non-scaling-stroke" d={curvePath(reading, 40, 26)} />
          )}
        </svg>
        <span className="length" style={{ ...FIGURE, color: cut ? 'var(--coral-text)' : undefined }}>
          {cut ? 'cut' : `${reading?.length_ms ?? '…'} ms`}
        </span>
      </button>
    </th>
  );
});

/** SVG path data of a curve in a box of this size, progress 0 at its foot and 1 at its top. */
export function curvePath(reading: Pick<TransitionReading, 'curve'>, width: number, height: number): string {
  return reading.curve
    .map(([u, p], i) => `${i ? 'L' : 'M'}${(u * width).toFixed(1)} ${(height * (1 - p) + 1).toFixed(1)}`)
    .join('');
}

export function GapHead({ id }: { id: string }) {
  const [from, to] = id.split('>') as [string, string];
  const name = useBench((b) => b.document.states.find((s) => s.id === to)?.name);
  const ends = useBench((b) => b.document.states.at(-1)?.id === from);
  return (
    <th style={{ verticalAlign: 'middle' }} scope="col">
      <PlainButton
        title={`Add a transition to ${name}`}
        aria-label={`Add a transition to ${name}${ends ? ', from the end' : ''}`}
        onClick={() => void addTransition(from, to)}
      >
        {ends ? 'end' : '+'}
      </PlainButton>
    </th>
  );
}
