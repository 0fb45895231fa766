import { Select } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import type { Original, Placement } from '../../../api/contract';
import { NumberField, TextField } from '../../../shared/ui/Field';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, make, useBench } from '../bench';
import { reaches } from '../chosen';
import { setOwn } from '../edits';
import { looksEdit } from '../looks';
import { goToPiece, hadBy, originalOf, standingIn, turnPlain, type Had } from '../placements';
import { placed, stateNamed } from '../tree';
import { ColourField } from './ColourField';
import { PictureField } from './PictureField';

/** What a copy says of the piece in it: the state in which it stands, and values of its own. */
export function PlacementFields({ id }: { id: string }) {
  const bench = useBench(
    useShallow(({ document, state, originals, poses, scope, fresh }) => ({
      ...{ document, state, originals, poses, scope, fresh },
    })),
  );
  const { piece } = placed(bench.document, id).layer as Placement;
  const original = originalOf(bench, id);
  if (!original) return null;
  const scope = reaches(bench, [id]);
  const had = hadBy(bench, id, original);
  const where = scope === 'base' ? 'in all states' : `in ${stateNamed(bench.document, bench.state).name}`;
  return (
    <section className="placement" aria-label={`Copy of ${original.name}`}>
      <p className="of">
        <span>
          a copy of <strong>{original.name}</strong>
        </span>
        <PlainButton onClick={() => goToPiece(piece)} title="So does a double click on it">
          Go to original
        </PlainButton>
      </p>
      <div className="stands">
        <span className="quiet">stands {where}</span>
        <Select
          aria-label="State of the copy"
          value={standingIn(original, bench.poses[bench.state]?.[id]?.state)}
          options={original.states.map((state) => ({ value: state.id, label: state.name }))}
          onChange={(state: string) => void attempt(looksEdit({ [id]: { state } }))}
        />
      </div>
      {had.length > 0 && (
        <h3>
          Values of its own{' '}
          <span className="quiet">
            {had.filter(({ from }) => from !== 'original').length} of {had.length}
          </span>
        </h3>
      )}
      {had.map((one) => (
        <OwnValue key={one.parameter.id} id={id} had={one} scope={scope} original={original} />
      ))}
      <PlainButton
        className="plain-layers"
        title="Nothing that plays changes; edits of the original are no longer seen here"
        onClick={() => void turnPlain(id)}
      >
        Turn into plain layers
      </PlainButton>
    </section>
  );
}

/** A parameter, marked where the copy says something itself, with the way back. */
function OwnValue({ id, had, scope, original }: Omit<OwnProps, 'commit'> & { id: string; scope: 'state' | 'base' }) {
  const { document: piece, state } = useBench(useShallow(({ document, state }) => ({ document, state })));
  const { parameter, from } = had;
  const named = [parameter.id, parameter.name] as const;
  const set = (value: string | number | null, where: 'state' | 'base') => setOwn(piece, state, id, named, value, where);
  return (
    <div className={from === 'original' ? 'own-value' : 'own-value differs'}>
      <OwnField had={had} original={original} commit={(next) => make(set(next, scope))} />
      {from !== 'original' && (
        <PlainButton
          aria-label={`Take back ${parameter.name}`}
          title={from === 'state' ? 'Back to what it has in all states' : 'Back to the original'}
          onClick={() => void attempt(set(null, from))}
        >
          ×
        </PlainButton>
      )}
    </div>
  );
}

interface OwnProps {
  had: Had;
  original: Original;
  commit: (value: string | number) => Promise<void>;
}

function OwnField({ had: { parameter, value }, original, commit }: OwnProps) {
  const { name, kind } = parameter;
  switch (kind) {
    case 'number':
    case 'time':
      return <NumberField label={name} unit={kind === 'time' ? 'ms' : ''} value={Number(value ?? 0)} commit={commit} />;
    case 'colour':
      return <ColourField label={name} value={String(value ?? 'none')} mixed={false} commit={commit} />;
    case 'picture':
      return <PictureField label={name} value={String(value ?? '')} commit={commit} />;
    case 'state':
      return (
        <Select
          aria-label={name}
          value={String(value ?? '')}
          options={original.states.map((own) => ({ value: own.id, label: own.name }))}
          onChange={(next: string) => void commit(next)}
        />
      );
    default:
      return <TextField label={name} value={String(value ?? '')} commit={commit} />;
  }
}
