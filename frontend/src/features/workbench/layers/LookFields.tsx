import { memo, useDeferredValue } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Value } from '../../../api/contract';
import { NumberField } from '../../../shared/ui/Field';
import { show } from '../../../shared/text/sums';
import { make, useBench, type Bench } from '../bench';
import { chosenLayers } from '../chosen';
import { commonOf } from '../chosenLooks';
import { namesOf } from '../edits';
import { looksEdit } from '../looks';
import { firstOf, known } from '../../../shared/known';

const SHORT: [string, string, string, number][] = [
  ['x', 'x', '', 1],
  ['y', 'y', '', 1],
  ['width', 'w', '', 1],
  ['height', 'h', '', 1],
  ['rotation', 'rot', '°', 1],
  ['opacity', 'opac', '', 0.05],
];

const DIFFERENCE = { margin: '7px 0 0', fontSize: 11.5 };

/** The numbers of the chosen layers in the state that is being posed. */
export function LookFields() {
  const shown = useBench(
    useShallow(({ document, layer, others, state, scope, poses }) => ({
      document,
      layer,
      others,
      state,
      scope,
      poses,
    })),
  );
  return <Fields {...useDeferredValue(shown)} />;
}

type Shown = Pick<Bench, 'document' | 'layer' | 'others' | 'state' | 'scope' | 'poses'>;

const Fields = memo(function Fields({ document: piece, layer, others, state: stateId, scope, poses }: Shown) {
  const ids = chosenLayers({ layer, others });
  const index = piece.states.findIndex((s) => s.id === stateId);
  const state = known(piece.states[index]);
  const common = new Map(commonOf(piece, poses[stateId] ?? {}, ids).map((row) => [row.property.name, row]));
  if (!common.size) return null;
  const before = index > 0 ? piece.states[index - 1] : undefined;
  const names = namesOf(piece, ids);
  const commit = (name: string) => (value: Value) =>
    make(looksEdit(Object.fromEntries(ids.map((id) => [id, { [name]: value }]))));
  return (
    <section className="look-fields" aria-label={`${names} in ${state.name}`}>
      <h3>
        {names} in {scope === 'base' ? 'all states' : state.name}
      </h3>
      <div className="pairs">
        {SHORT.map(([name, label, unit, step]) => (
          <NumberField
            key={`${ids.join()}${stateId}${name}`}
            label={label}
            name={name}
            unit={unit}
            step={step}
            value={Number(known(common.get(name)).value)}
            mixed={known(common.get(name)).mixed}
            commit={commit(name)}
          />
        ))}
      </div>
      {before && ids.length === 1 && (
        <Difference
          look={known(known(poses[stateId])[firstOf(ids)])}
          old={poses[before.id]?.[firstOf(ids)]}
          name={before.name}
        />
      )}
    </section>
  );
});

function Difference({
  look,
  old,
  name,
}: {
  look: Record<string, Value>;
  old: Record<string, Value> | undefined;
  name: string;
}) {
  const differing = SHORT.filter(([key]) => old && old[key] !== look[key]);
  if (!differing.length)
    return (
      <p className="quiet" style={DIFFERENCE}>
        as in {name}
      </p>
    );
  const [key] = firstOf(differing);
  const by = Number(look[key]) - Number(known(old)[key]);
  return (
    <p style={{ ...DIFFERENCE, color: 'var(--glass)' }}>
      {key} differs from {name} by {show(by)}
      {differing.length > 1 && `, and ${differing.length - 1} more`}
    </p>
  );
}
