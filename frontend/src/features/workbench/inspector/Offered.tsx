import { Fold } from '../../../shared/ui/Fold';
import type { Bind, Parameter } from '../../../api/contract';
import { Chip } from '../../../shared/ui/Chip';
import { TextField } from '../../../shared/ui/Field';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, make, useBench } from '../bench';
import type { Common } from '../chosenLooks';
import { goesTo, kindOfParameter, offer, parameterAt, renameParameter, withdraw, withdrawAt } from '../edits';
import { placed } from '../tree';

/** Which values of a layer its copies may set: a press on one offers it, another takes it back. */
export function OfferedOfLayer({ id, values }: { id: string; values: readonly Common[] }) {
  const piece = useBench((b) => b.document);
  const { name } = placed(piece, id).layer;
  const all = values.flatMap(({ property, value }) => {
    const kind = kindOfParameter(property, value);
    return kind ? [{ property, kind }] : [];
  });
  // What copies mostly differ in stands first.
  const isNumber = ({ kind }: (typeof all)[number]) => kind === 'number';
  const offered = [...all.filter((one) => !isNumber(one)), ...all.filter(isNumber)];
  return (
    <Fold title="Copies may set">
      <p className="quiet">Where this piece stands in another, each copy can have its own:</p>
      <div className="chips">
        {offered.map(({ property, kind }) => (
          <OfferChip
            key={property.name}
            kind={kind}
            bind={{ layer: id, property: property.name }}
            label={property.label}
            name={`${name} ${property.label}`}
          />
        ))}
      </div>
    </Fold>
  );
}

interface ChipProps {
  kind: Parameter['kind'];
  bind: Bind;
  label: string;
  /** What copies call it at first. */
  name: string;
}

/** A value that is offered to copies, or not. */
export function OfferChip({ kind, bind, label, name }: ChipProps) {
  const piece = useBench((b) => b.document);
  const known = parameterAt(piece, bind);
  return (
    <Chip
      pressed={!!known}
      onClick={() =>
        void attempt(known ? withdrawAt(piece, known, bind) : offer(piece, kind, bind, name.toLowerCase()))
      }
    >
      {label}
    </Chip>
  );
}

/** All that copies of the piece may set, by the names that they know it by. */
export function OfferedOfPiece() {
  const piece = useBench((b) => b.document);
  const offered = piece.parameters ?? [];
  if (!offered.length) return null;
  return (
    <section aria-label="Copies may set">
      <h3>Copies may set</h3>
      {offered.map((parameter) => (
        <div key={parameter.id} className="own-value">
          <TextField
            label={goesTo(piece, parameter)}
            name={`Name of ${parameter.name}`}
            value={parameter.name}
            commit={(name) => make(renameParameter(piece, parameter, name))}
          />
          <PlainButton
            aria-label={`Let copies no longer set ${parameter.name}`}
            title="Let copies no longer set it"
            onClick={() => void attempt(withdraw(piece, parameter))}
          >
            ×
          </PlainButton>
        </div>
      ))}
    </section>
  );
}
