import { Dropdown, Flex } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import * as actions from '../actions';
import { attempt, namedOf, useBench } from '../bench';
import { choose } from '../choosing';
import * as edits from '../edits';
import { placeOf, propertiesOf, stateNamed } from '../tree';
import { AddState } from './AddState';
import { look, useView } from '../view';
import { CellsMenu } from './CellsMenu';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** What can be added to the score, and done to the state that is being posed. */
export function ScoreFoot() {
  const backwards = useView((v) => v.backwards);
  const name = useBench((b) => stateNamed(b.document, b.state).name);
  return (
    <Flex component="footer" align="center" gap={5} className="foot" style={{ height: 30 }}>
      <AddState name={name} />
      <AddRow />
      <AddTransition />
      <PlainButton
        title="Kinds in which the piece comes, such as calm and warning, beside its states"
        onClick={() => void addTrait()}
      >
        + trait
      </PlainButton>
      <CellsMenu />
      <PlainButton
        aria-pressed={backwards}
        title="From the end: each new state comes before the chosen one"
        onClick={() => look({ backwards: !backwards })}
      >
        build backwards
      </PlainButton>
      <span className="spring" />
      <StateActions name={name} />
    </Flex>
  );
}

async function addTrait(): Promise<void> {
  const edit = edits.addTrait(useBench.getState().document);
  if (await attempt(edit)) choose({ scope: `option:${edit.id}` });
}

/** What can be done to the state. */
function StateActions({ name }: { name: string }) {
  const isStart = useBench((b) => b.document.start === b.state);
  const count = useBench((b) => b.document.states.length);
  const index = useBench((b) => b.document.states.findIndex((s) => s.id === b.state));
  return (
    <>
      <strong className="ellipsis" style={{ maxWidth: 110 }}>
        {name}
      </strong>
      <PlainButton onClick={() => void actions.duplicateState()}>duplicate</PlainButton>
      <PlainButton
        disabled={index === 0}
        aria-label="Move state to the left"
        title="Alt ←"
        onClick={() => void actions.moveState(-1)}
      >
        ←
      </PlainButton>
      <PlainButton
        disabled={index === count - 1}
        aria-label="Move state to the right"
        title="Alt →"
        onClick={() => void actions.moveState(1)}
      >
        →
      </PlainButton>
      <PlainButton disabled={isStart} onClick={() => void actions.startHere()}>
        {isStart ? 'starts here' : 'start here'}
      </PlainButton>
      <PlainButton
        title={count === 1 ? 'A piece has at least one state' : `Delete state ${name}`}
        disabled={count === 1}
        onClick={() => void actions.removeState()}
      >
        delete state
      </PlainButton>
    </>
  );
}

/** A transition to any other state, which is chosen at once. */
function AddTransition() {
  const stateId = useBench((b) => b.state);
  const states = useBench(useShallow((b) => b.document.states.map((s) => `${s.id} ${s.name}`))).map(namedOf);
  const others = states.filter((s) => s.id !== stateId);
  const toEach = others.map((s) => ({
    key: `to ${s.id}`,
    label: `to ${s.name}`,
    onClick: () => void actions.addTransition(stateId, s.id),
  }));
  const all = {
    key: 'all',
    label: 'from each state to each other, by tap',
    title: 'As tabs need it: what is missing is added, and what leads on by itself waits for a tap too',
    onClick: () => void actions.joinAll(),
  };
  const items = others.length > 1 ? [...toEach, { type: 'divider' as const }, all] : toEach;
  return (
    <Dropdown trigger={['click']} disabled={!others.length} menu={{ items }}>
      <PlainButton disabled={!others.length}>+ transition</PlainButton>
    </Dropdown>
  );
}

/** A row for a property that does not change yet. */
function AddRow() {
  const layerId = useBench((b) => b.layer);
  const layer = useBench((b) => (layerId ? placeOf(b.document, layerId)?.layer : undefined));
  const asked = useBench((b) => b.askedRows);
  const properties = layer ? propertiesOf(layer).filter((p) => p.varies) : [];
  return (
    <Dropdown
      trigger={['click']}
      disabled={!layer}
      menu={{
        items: properties.map((p) => ({
          key: p.name,
          label: p.label,
          onClick: () => choose({ askedRows: [...asked, `${layerId}/${p.name}`] }),
        })),
        style: { maxHeight: 320, overflow: 'auto' },
      }}
    >
      <PlainButton disabled={!layer} title={layer ? `A property of ${layer.name}` : 'Choose a layer first'}>
        + row
      </PlainButton>
    </Dropdown>
  );
}
