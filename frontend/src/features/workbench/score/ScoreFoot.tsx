import { Dropdown } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import * as actions from '../actions';
import { attempt, choose, namedOf, useBench } from '../bench';
import { addTransition } from '../edits';
import { placeOf, propertiesOf, stateNamed } from '../tree';
import { look, useView } from '../view';
import { CellsMenu } from './CellsMenu';
import { known } from '../../../shared/known';

/** What can be added to the score, and done to the state that is being posed. */
export function ScoreFoot() {
  const states = useBench(useShallow((b) => b.document.states.map((s) => `${s.id} ${s.name}`))).map(namedOf);
  const start = useBench((b) => b.document.start);
  const stateId = useBench((b) => b.state);
  const ways = useBench(
    useShallow((b) =>
      (b.document.transitions ?? [])
        .filter((t) => t.from === b.state)
        .map((t) => `${t.id} ${stateNamed(b.document, t.to).name}`),
    ),
  ).map(namedOf);
  const backwards = useView((v) => v.backwards);
  const index = states.findIndex((s) => s.id === stateId);
  const { name } = known(states[index]);
  const others = states.filter((s) => s.id !== stateId);
  const between = ways.map((way) => ({
    key: way.id,
    label: `halfway to ${way.name}`,
    onClick: () => void actions.addStateBetween(way.id),
  }));
  return (
    <footer className="score-foot">
      <button
        className="plain"
        title={`${backwards ? 'Before' : 'After'} ${name}, looking like it (S)`}
        onClick={() => void actions.addState()}
      >
        + state
      </button>
      <Dropdown
        trigger={['click']}
        menu={{
          items: [
            { key: 'before', label: `before ${name}`, onClick: () => void actions.addStateBefore() },
            { key: 'after', label: `after ${name}`, onClick: () => void actions.addStateAfter() },
            ...between,
          ],
        }}
      >
        <button className="plain" title="A state before, after, or halfway to another">
          + state at…
        </button>
      </Dropdown>
      <AddRow />
      <Dropdown
        trigger={['click']}
        disabled={!others.length}
        menu={{
          items: others.map((s) => ({
            key: s.id,
            label: `to ${s.name}`,
            onClick: () => void attempt(addTransition(useBench.getState().document, stateId, s.id)),
          })),
        }}
      >
        <button className="plain" disabled={!others.length}>
          + transition
        </button>
      </Dropdown>
      <CellsMenu />
      <button
        className="plain toggle"
        aria-pressed={backwards}
        title="From the end: each new state comes before the chosen one"
        onClick={() => look({ backwards: !backwards })}
      >
        build backwards
      </button>
      <span className="spring" />
      <strong>{name}</strong>
      <button className="plain" onClick={() => void actions.duplicateState()}>
        duplicate
      </button>
      <button
        className="plain"
        disabled={index === 0}
        aria-label="Move state to the left"
        title="Alt ←"
        onClick={() => void actions.moveState(-1)}
      >
        ←
      </button>
      <button
        className="plain"
        disabled={index === states.length - 1}
        aria-label="Move state to the right"
        title="Alt →"
        onClick={() => void actions.moveState(1)}
      >
        →
      </button>
      <button className="plain" disabled={start === stateId} onClick={() => void actions.startHere()}>
        {start === stateId ? 'starts here' : 'start here'}
      </button>
      <button className="plain" disabled={states.length === 1} onClick={() => void actions.removeState()}>
        delete
      </button>
    </footer>
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
      <button
        className="plain"
        disabled={!layer}
        title={layer ? `A property of ${layer.name}` : 'Choose a layer first'}
      >
        + row
      </button>
    </Dropdown>
  );
}
