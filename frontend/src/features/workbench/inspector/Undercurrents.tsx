import { useState } from 'react';
import { Fold } from '../../../shared/ui/Fold';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, useBench } from '../bench';
import { choose } from '../choosing';
import { addUndercurrent, freeToGoRound, namesOf, undercurrentsOf, type Undercurrent } from '../edits';
import { propertyNamed } from '../tree';
import { RoundChoice } from './RoundChoice';

/** All that goes round in the piece, to be chosen. */
export function Undercurrents() {
  const piece = useBench((b) => b.document);
  const all = undercurrentsOf(piece);
  return (
    <Fold title="Undercurrents" open={all.length > 0}>
      {all.map((own) => (
        <Chooser key={own.id} own={own} />
      ))}
      {!all.length && (
        <p className="quiet">
          What goes round on its own under all states, such as a glow that breathes. Choose layers to make one of them.
        </p>
      )}
    </Fold>
  );
}

function Chooser({ own }: { own: Undercurrent }) {
  const sections = useBench((b) => b.document.sections);
  const section = sections?.find(({ id }) => id === own.section);
  return (
    <div>
      <PlainButton
        style={{ maxWidth: '100%' }}
        className="ellipsis"
        title={`Open ${own.name}`}
        onClick={() => choose({ undercurrent: own.id })}
      >
        {own.name} · {section ? `along ${section.name}` : `${own.period_ms} ms`}
      </PlainButton>
    </div>
  );
}

/** What of the chosen layers goes round on its own, and one more. */
export function GoesRound({ ids }: { ids: readonly string[] }) {
  const piece = useBench((b) => b.document);
  const pose = useBench((b) => b.poses[b.state]);
  const own = undercurrentsOf(piece).filter(({ courses }) => courses.some(({ layer }) => ids.includes(layer)));
  const free = freeToGoRound(piece, ids);
  const [asked, setAsked] = useState('opacity');
  const property = free.find(({ name }) => name === asked) ?? free[0];
  const add = async () => {
    if (!property || !pose) return;
    const made = addUndercurrent(piece, pose, ids, property.name);
    if (await attempt(made)) choose({ undercurrent: made.id });
  };
  return (
    <Fold title="Goes round on its own" open={own.length > 0}>
      {own.map((each) => (
        <Chooser key={each.id} own={each} />
      ))}
      <div className="pairs" style={{ marginTop: 4 }}>
        <RoundChoice free={free} value={property?.name} onChange={setAsked} />
        <PlainButton
          disabled={!property}
          title={
            property
              ? `${propertyNamed(property.name).label} of ${namesOf(piece, ids)}, in all states${ids.length > 1 ? ', one after the other' : ''}`
              : `All that could go round in ${namesOf(piece, ids)} does`
          }
          onClick={() => void add()}
        >
          + undercurrent
        </PlainButton>
      </div>
    </Fold>
  );
}
