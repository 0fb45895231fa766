import { Dropdown } from 'antd';
import { useEffect, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { lastOf } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';
import * as actions from '../actions';
import { namedOf, useBench } from '../bench';
import { stage } from '../stageHands';
import { stateNamed } from '../tree';
import { useView } from '../view';

/** A state more. Where that changes what leads where, a list says what, before it is done. */
export function AddState({ name }: { name: string }) {
  const [open, setOpen] = useState<'' | 'asked' | 'all'>('');
  useEffect(() => void (stage.stateMenu = () => setOpen('asked')), []);
  const backwards = useView((v) => v.backwards);
  const items = useItems(name);
  const menu = { items, onClick: () => setOpen('') };
  return (
    <>
      <Dropdown
        {...KEYS_INSIDE}
        trigger={['click']}
        menu={menu}
        open={open === 'asked'}
        onOpenChange={(wanted) => (wanted ? actions.addState() : setOpen(''))}
      >
        <PlainButton title={`${backwards ? 'Before' : 'After'} ${name}, looking like it (S)`}>+ state</PlainButton>
      </Dropdown>
      <Dropdown
        {...KEYS_INSIDE}
        trigger={['click']}
        menu={menu}
        open={open === 'all'}
        onOpenChange={(wanted) => setOpen(wanted ? 'all' : '')}
      >
        <PlainButton title="Before, after, halfway to another, or as a branch">+ state at…</PlainButton>
      </Dropdown>
    </>
  );
}

/** The keys go into the list, not into the page. */
const KEYS_INSIDE = { autoFocus: true };

const item = (key: string, label: string, hint: string, act: () => Promise<void>) => ({
  key,
  label: (
    <span className="state-item">
      {label}
      <span className="quiet">{hint}</span>
    </span>
  ),
  onClick: () => void act(),
});

/** Where it may come, and what of what leads where is changed by that. */
function useItems(name: string) {
  const { state, last } = useBench(useShallow(({ document, state }) => ({ state, last: lastOf(document.states) })));
  const onward = useWays('from');
  const coming = useWays('to');
  const leads = listed(onward);
  return [
    item(
      'after',
      `after ${name}`,
      onward.length ? `what leads on to ${leads} leads there from it` : `${name} leads to it`,
      actions.addStateAfter,
    ),
    ...(last.id === state
      ? []
      : [
          item(
            'end',
            `after the end, ${last.name}`,
            `what leads on from ${last.name} does so from it`,
            actions.addStateAtEnd,
          ),
        ]),
    item('branch', `as a branch of ${name}`, `${name} leads to it; nothing else changes`, actions.addBranch),
    item(
      'before',
      `before ${name}`,
      coming.length ? `what leads here from ${listed(coming)} leads there` : `it leads to ${name}`,
      actions.addStateBefore,
    ),
    ...onward.map((way) =>
      item(way.id, `halfway to ${way.name}`, 'both ways take half as long', () => actions.addStateBetween(way.id)),
    ),
  ];
}

/** The transitions of the chosen state, with the names of the states at their other ends. */
function useWays(end: 'from' | 'to') {
  return useBench(
    useShallow((b) =>
      (b.document.transitions ?? [])
        .filter((t) => t[end] === b.state)
        .map((t) => `${t.id} ${stateNamed(b.document, end === 'from' ? t.to : t.from).name}`),
    ),
  ).map(namedOf);
}

const listed = (ways: readonly { name: string }[]) => [...new Set(ways.map((way) => way.name))].join(' and ');
