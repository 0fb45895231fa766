import { useShallow } from 'zustand/react/shallow';
import { PROPERTIES } from '../../../api/generated/catalogue';
import { show } from '../../../shared/text/sums';
import { sameValue } from '../../../shared/text/values';
import { useBench } from '../bench';

/** Said so that a state can be posed by how far it is from the one before. */
export function FromBefore({ id }: { id: string }) {
  const { piece, poses, state } = useBench(
    useShallow(({ document, poses, state }) => ({ piece: document, poses, state })),
  );
  const before = piece.states[piece.states.findIndex((each) => each.id === state) - 1];
  const [look, old] = [poses[state]?.[id], before && poses[before.id]?.[id]];
  if (!before || !look || !old) return null;
  const differing = PROPERTIES.filter(({ name, varies }) => varies && !sameValue(look[name], old[name]));
  if (!differing.length) return <p className="quiet">As in {before.name}.</p>;
  const said = differing.slice(0, MOST_SAID).map(({ name, label, unit }) => {
    const [now, then] = [look[name], old[name]];
    if (typeof now !== 'number' || typeof then !== 'number') return label;
    const by = now - then;
    return `${label} ${by > 0 ? '+' : ''}${show(by, unit)}`;
  });
  const more = differing.length - said.length;
  return (
    <p className="from-before">
      From {before.name}: {said.join(', ')}
      {more > 0 && `, ${more} more`}
    </p>
  );
}

const MOST_SAID = 4;
