import { Select } from 'antd';
import { useState } from 'react';
import { Fold } from '../../../shared/ui/Fold';
import { NumberField } from '../../../shared/ui/Field';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, make, useBench } from '../bench';
import { addAlong, alongOf, freeForAlong, removeAlong, sectionsOf, setAlong, type Along } from '../edits';
import { propertyNamed } from '../tree';
import { known } from '../../../shared/known';

/** What of a layer follows the way scrolled through a section of the piece. */
export function AlongSections({ id }: { id: string }) {
  const piece = useBench((b) => b.document);
  if (!sectionsOf(piece).length) return null;
  const all = alongOf(piece, id);
  return (
    <Fold title="Moves with the scroll" open={all.length > 0}>
      {all.map((along) => (
        <OneAlong key={along.at.join()} along={along} />
      ))}
      {!all.length && (
        <p className="quiet">A value follows how far a section has been scrolled through, forwards and back.</p>
      )}
      <AddAlong id={id} />
    </Fold>
  );
}

function OneAlong({ along }: { along: Along }) {
  const piece = useBench((b) => b.document);
  const { course, section, shares } = along;
  const { label, unit } = propertyNamed(course.property);
  const told = `${label} through ${section.name}`;
  return (
    <div role="group" aria-label={told}>
      <div className="own-value">
        <p style={{ margin: 0 }}>{told}</p>
        <PlainButton
          aria-label={`Let ${label} no longer follow ${section.name}`}
          onClick={() => void attempt(removeAlong(piece, along))}
        >
          ×
        </PlainButton>
      </div>
      <div className="pairs">
        {course.keys.map((key, at) => {
          const share = `${Math.round(known(shares[at]) * 100)} %`;
          return (
            typeof key.value === 'number' && (
              <NumberField
                key={at}
                label={`at ${share}`}
                name={`${told} at ${share}`}
                unit={unit === '°' ? '°' : ''}
                value={key.value}
                commit={(value) => make(setAlong(along, at, value))}
              />
            )
          );
        })}
      </div>
    </div>
  );
}

function AddAlong({ id }: { id: string }) {
  const piece = useBench((b) => b.document);
  const look = useBench((b) => b.poses[b.state]?.[id]);
  const sections = sectionsOf(piece);
  const free = freeForAlong(piece, id);
  const [chosen, setChosen] = useState({ section: '', property: 'rotation' });
  const section = sections.find((each) => each.id === chosen.section) ?? sections[0];
  const property = free.find((each) => each.name === chosen.property) ?? free[0];
  if (!section || !property || !look) return null;
  return (
    <div className="pairs" style={{ marginTop: 8 }}>
      <Select
        aria-label="What moves"
        value={property.name}
        options={free.map(({ name, label }) => ({ value: name, label }))}
        onChange={(name) => setChosen({ ...chosen, property: name })}
      />
      <Select
        aria-label="Through which section"
        value={section.id}
        options={sections.map((each) => ({ value: each.id, label: each.name }))}
        onChange={(name) => setChosen({ ...chosen, section: name })}
      />
      <PlainButton
        title="From what it is now; then say where it goes"
        onClick={() => void attempt(addAlong(piece, id, section, property.name, known(look[property.name])))}
      >
        + with the scroll
      </PlainButton>
    </div>
  );
}
