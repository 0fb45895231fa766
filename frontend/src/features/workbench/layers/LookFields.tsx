import { memo, useDeferredValue } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Value } from '../../../api/answers';
import { NumberField } from '../../../shared/ui/Field';
import { show } from '../../../shared/text/sums';
import { make, useBench, type Bench } from '../bench';
import { setValues } from '../edits';
import { placed } from '../tree';

const SHORT: [string, string, string, number][] = [
  ['x', 'x', '', 1],
  ['y', 'y', '', 1],
  ['width', 'w', '', 1],
  ['height', 'h', '', 1],
  ['rotation', 'turn', '°', 1],
  ['opacity', 'opac', '', 0.05],
];

/** The numbers of the chosen layer in the state that is being posed. */
export function LookFields() {
  const shown = useBench(useShallow(({ document, layer, state, scope, poses }) => ({ document, layer, state, scope, poses })));
  return <Fields {...useDeferredValue(shown)} />;
}

type Shown = Pick<Bench, 'document' | 'layer' | 'state' | 'scope' | 'poses'>;

const Fields = memo(function Fields({ document: piece, layer: id, state: stateId, scope, poses }: Shown) {
  const found = id ? placed(piece!, id) : undefined;
  const index = piece!.states.findIndex((s) => s.id === stateId);
  const state = piece!.states[index]!;
  const look = found && poses[stateId]?.[found.layer.id];
  if (!found || !look) return null;
  const before = index > 0 ? piece!.states[index - 1] : undefined;
  const commit = (name: string) => (value: Value) => make(setValues(piece!, stateId, found.layer.id, { [name]: value }, scope));
  return (
    <section className="look-fields" aria-label={`${found.layer.name} in ${state.name}`}>
      <h3>
        {found.layer.name} in {scope === 'base' ? 'all states' : state.name}
      </h3>
      <div className="pairs">
        {SHORT.map(([name, label, unit, step]) => (
          <NumberField key={`${id}${stateId}${name}`} label={label} name={name} unit={unit} step={step} value={Number(look[name])} commit={commit(name)} />
        ))}
      </div>
      {before && <Difference look={look} old={poses[before.id]?.[found.layer.id]} name={before.name} />}
    </section>
  );
});

function Difference({ look, old, name }: { look: Record<string, Value>; old: Record<string, Value> | undefined; name: string }) {
  const differing = SHORT.filter(([key]) => old && old[key] !== look[key]);
  if (!differing.length) return <p className="difference quiet">as in {name}</p>;
  const [key] = differing[0]!;
  const by = Number(look[key]) - Number(old![key]);
  return (
    <p className="difference">
      {key} differs from {name} by {show(by)}
      {differing.length > 1 && `, and ${differing.length - 1} more`}
    </p>
  );
}
