import { useShallow } from 'zustand/react/shallow';
import { chainTo } from '../../../shared/geometry/matrix';
import { attempt, useBench } from '../bench';
import { choose } from '../choosing';
import { reaches } from '../chosen';
import { ownValues, setCells } from '../edits';
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

/** Values of the state that is shown stand before the base that is edited. */
function OwnValues({ ids }: { ids: readonly string[] }) {
  const {
    document: piece,
    state,
    scope,
    fresh,
  } = useBench(useShallow(({ document, state, scope, fresh }) => ({ document, state, scope, fresh })));
  const own = ownValues(piece, state, ids);
  if (reaches({ scope, fresh }, ids) !== 'base' || !own.length) return null;
  const labels = [...new Set(own.map((cell) => propertyNamed(cell.property).label))].join(', ');
  const { name } = stateNamed(piece, state);
  return (
    <p className="overrides">
      {name} has its own {labels}: edits of the base do not show here.{' '}
      <PlainButton onClick={() => void attempt(setCells(piece, own, `${labels} in ${name} back to base`))}>
        Back to the base
      </PlainButton>
    </p>
  );
}

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
