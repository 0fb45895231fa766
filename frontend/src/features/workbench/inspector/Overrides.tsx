import { useShallow } from 'zustand/react/shallow';
import { chainTo } from '../../../shared/geometry/matrix';
import { attempt, useBench } from '../bench';
import { choose } from '../choosing';
import { reaches } from '../chosen';
import type { Trait } from '../../../api/contract';
import { clearInOptions, ownValues, setCells, shownOf, traitIn, traitsOf, type Cell } from '../edits';
import { propertyNamed, stateNamed } from '../tree';
import { lastOf } from '../../../shared/known';
import { textOf } from '../../../shared/text/values';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** Said before anything is typed: what would be written and not seen, because something else has the last word. */
export function Overrides({ ids }: { ids: readonly string[] }) {
  return (
    <>
      <OwnValues ids={ids} />
      <InRow id={lastOf(ids)} />
    </>
  );
}

/** Values of the state that is shown stand before the base, or the option, that is edited; options before the base. */
function OwnValues({ ids }: { ids: readonly string[] }) {
  const {
    document: piece,
    state,
    scope,
    fresh,
  } = useBench(useShallow(({ document, state, scope, fresh }) => ({ document, state, scope, fresh })));
  const trait = traitIn(piece, scope);
  const reached = reaches({ scope, fresh }, ids);
  if (reached === 'state') return null;
  const { name } = stateNamed(piece, state);
  const own = ownValues(piece, state, ids);
  const ofOptions = reached === 'base' ? traitsOf(piece).filter((trait) => saysOf(trait, ids)) : [];
  return (
    <>
      {own.length > 0 && (
        <p className="overrides">
          {name} has its own {labelsOf(own)}: edits of {trait ? shownOf(trait).name : 'the base'} do not show here.{' '}
          <PlainButton onClick={() => void attempt(setCells(piece, own, `${labelsOf(own)} in ${name} as in the base`))}>
            As in the base
          </PlainButton>
        </p>
      )}
      {ofOptions.length > 0 && (
        <p className="overrides">
          {ofOptions.map((trait) => shownOf(trait).name).join(', ')} says something of it: edits of the base may not
          show here.{' '}
          <PlainButton onClick={() => void attempt(clearInOptions(piece, ids, 'As in the base'))}>
            As in the base
          </PlainButton>
        </p>
      )}
    </>
  );
}

const labelsOf = (cells: readonly Cell[]) =>
  [...new Set(cells.map((cell) => propertyNamed(cell.property).label))].join(', ');
const saysOf = (trait: Trait, ids: readonly string[]) =>
  Object.keys(shownOf(trait).changes ?? {}).some((layer) => ids.includes(layer));

/** A row or a column places what is in it, and may size it. */
function InRow({ id }: { id: string }) {
  const {
    document: piece,
    state,
    poses,
  } = useBench(useShallow(({ document, state, poses }) => ({ document, state, poses })));
  const pose = poses[state];
  const group = chainTo(piece.layers ?? [], id).at(-2);
  const shown = group && pose?.[group.id];
  if (!group || !shown || !pose[id] || shown.layout === 'none') return null;
  const row = textOf(shown.layout);
  const [along, across] = row === 'row' ? ['width', 'height'] : ['height', 'width'];
  const set = ['x', 'y', ...(Number(pose[id].grow) > 0 ? [along] : []), ...(shown.align === 'stretch' ? [across] : [])];
  return (
    <p className="overrides">
      The {row} {group.name} sets {set.join(', ')}.{' '}
      <PlainButton onClick={() => choose({ layer: group.id, others: [] })}>Choose {group.name}</PlainButton>
    </p>
  );
}
