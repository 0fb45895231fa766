import { NumberField, TextField } from '../../../shared/ui/Field';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, make, useBench } from '../bench';
import { addSection, changeSection, removeSection, sectionsOf } from '../edits';

/** The content, where it is longer than the screen: its sections under each other. */
export function Sections() {
  const piece = useBench((b) => b.document);
  const sections = sectionsOf(piece);
  return (
    <section aria-label="Sections">
      <h3>Sections</h3>
      {!sections.length && (
        <p className="quiet">All of it is on the screen. With sections its content is longer, and scrolls.</p>
      )}
      {sections.map((section) => (
        <div key={section.id} className="own-value">
          <div className="pairs">
            <TextField
              label=""
              name={`Name of ${section.name}`}
              value={section.name}
              commit={(name) => make(changeSection(piece, section.id, { name }))}
            />
            <NumberField
              label="height"
              name={`Height of ${section.name}`}
              unit="px"
              value={section.height}
              commit={(height) => make(changeSection(piece, section.id, { height }))}
            />
          </div>
          <PlainButton
            aria-label={`Delete ${section.name}`}
            onClick={() => void attempt(removeSection(piece, section))}
          >
            ×
          </PlainButton>
        </div>
      ))}
      <PlainButton onClick={() => void attempt(addSection(piece))}>+ section</PlainButton>
    </section>
  );
}
