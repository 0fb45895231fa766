import { Select } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import type { Original, Placement, RunningVoice } from '../../../api/contract';
import { Choice } from '../../../shared/ui/Choice';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, make, useBench } from '../bench';
import { reaches } from '../chosen';
import { optionsBy, setLife, setOption, setOwn, type Scope } from '../edits';
import { looksEdit } from '../looks';
import { goToPiece, hadBy, originalOf, standingIn, turnPlain, type Had } from '../placements';
import { placed, stateNamed } from '../tree';
import { FillRows } from './FillRows';
import { ParameterField } from './ParameterField';

/** What a copy says of the piece in it: the state in which it stands, and values of its own. */
export function PlacementFields({ id }: { id: string }) {
  const bench = useBench(
    useShallow(({ document, state, originals, poses, scope, fresh }) => ({
      ...{ document, state, originals, poses, scope, fresh },
    })),
  );
  const { piece, life } = placed(bench.document, id).layer as Placement;
  const isFree = life === 'free';
  const original = originalOf(bench, id);
  if (!original) return null;
  const scope = reaches(bench, [id]);
  const had = hadBy(bench, id, original);
  const where = scope !== 'state' ? 'in all states' : `in ${stateNamed(bench.document, bench.state).name}`;
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
      <Life id={id} />
      <div className="stands">
        <span className="quiet">{isFree ? 'begins' : `stands ${where}`}</span>
        <Select
          aria-label="State of the copy"
          value={standingIn(original, bench.poses[bench.state]?.[id]?.state)}
          options={original.states.map((state) => ({ value: state.id, label: state.name }))}
          onChange={(state: string) => void attempt(looksEdit({ [id]: { state } }))}
        />
      </div>
      {original.traits.map((trait) => (
        <OwnOption key={trait.id} id={id} trait={trait} scope={scope} />
      ))}
      {had.length > 0 && (
        <h3>
          Values of its own{' '}
          <span className="quiet">
            {had.filter(({ from }) => from !== 'original').length} of {had.length}
          </span>
        </h3>
      )}
      {had.map((one) => (
        <OwnValue key={one.parameter.id} id={id} had={one} scope={scope} />
      ))}
      <FillRows id={id} original={original} />
      <ToPlainLayers id={id} isFree={isFree} />
    </section>
  );
}

function ToPlainLayers({ id, isFree }: { id: string; isFree: boolean }) {
  return (
    <PlainButton
      className="plain-layers"
      disabled={isFree}
      title={
        isFree
          ? 'Plain layers go with this piece: let it lead the copy first'
          : 'Nothing that plays changes; edits of the original are no longer seen here'
      }
      onClick={() => void turnPlain(id)}
    >
      Turn into plain layers
    </PlainButton>
  );
}

/** Whether the states of this piece lead it; and what it does by itself where they do not. */
function Life({ id }: { id: string }) {
  const { document: piece, run } = useBench(useShallow(({ document, run }) => ({ document, run })));
  const { life = 'led' } = placed(piece, id).layer as Placement;
  const voice = run.voices.find(({ placement }) => placement === id);
  return (
    <>
      <Choice
        block
        aria-label="How it lives"
        value={life}
        options={[
          { value: 'led', label: 'led by this piece', title: 'The states of this piece say in which state it stands' },
          { value: 'free', label: 'free, by itself', title: 'It plays and answers by itself, from when it is seen' },
        ]}
        onChange={(next) => void attempt(setLife(piece, id, next))}
      />
      {life === 'led' && piece.states.length === 1 && (
        <p className="quiet">This piece has one state, so the copy stands still unless it lives by itself.</p>
      )}
      {life === 'free' && <p className="quiet">{voice ? livesOf(voice) : 'It is never seen in the run.'}</p>}
    </>
  );
}

function livesOf({ begins_ms, run: { loop_ms, total_ms } }: RunningVoice): string {
  const from = begins_ms ? `From ${begins_ms} ms on it` : 'It';
  if (loop_ms !== null) return `${from} goes round in ${loop_ms} ms.`;
  return total_ms ? `${from} plays once, for ${total_ms} ms.` : `${from} waits for somebody to act.`;
}

/** An option of a trait, marked where the copy chooses it itself, with the way back. */
function OwnOption({ id, trait, scope }: { id: string; trait: Original['traits'][number]; scope: Scope }) {
  const { document: piece, state } = useBench(useShallow(({ document, state }) => ({ document, state })));
  const [inState, inBase] = (['state', 'base'] as const).map((where) => optionsBy(piece, state, id, where)[trait.id]);
  const own = inState ?? inBase;
  const set = (option: string | null, where: Scope) => setOption(piece, state, id, trait.id, option, where);
  return (
    <div className={own ? 'own-value differs' : 'own-value'}>
      <label className="stands">
        <span className="quiet">{trait.name}</span>
        <Select
          aria-label={`${trait.name} of the copy`}
          value={trait.options.some((option) => option.id === own) ? own : trait.shows}
          options={trait.options.map((option) => ({ value: option.id, label: option.name }))}
          onChange={(option: string) => void attempt(set(option, scope))}
        />
      </label>
      {own && (
        <PlainButton
          aria-label={`Take back ${trait.name}`}
          title={inState ? 'Back to what it has in all states' : 'Back to what the original shows'}
          onClick={() => void attempt(set(null, inState ? 'state' : 'base'))}
        >
          ×
        </PlainButton>
      )}
    </div>
  );
}

/** A parameter, marked where the copy says something itself, with the way back. */
function OwnValue({ id, had, scope }: { id: string; had: Had; scope: Scope }) {
  const { document: piece, state } = useBench(useShallow(({ document, state }) => ({ document, state })));
  const { parameter, from } = had;
  const named = [parameter.id, parameter.name] as const;
  const set = (value: string | number | null, where: Scope) => setOwn(piece, state, id, named, value, where);
  return (
    <div className={from === 'original' ? 'own-value' : 'own-value differs'}>
      <ParameterField had={had} commit={(next) => make(set(next, scope))} />
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
