import { Checkbox, Flex, Select } from 'antd';
import { useState } from 'react';
import { NumberField, TextField } from '../../../shared/ui/Field';
import { Choice } from '../../../shared/ui/Choice';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, make, useBench } from '../bench';
import { chosenLayers } from '../chosen';
import { choose } from '../choosing';
import * as edits from '../edits';
import type { Undercurrent } from '../edits';
import { walk } from '../tree';
import { tried } from '../actions';
import { OfferChip } from './Offered';
import { RoundChoice } from './RoundChoice';
import { RoundEditor } from './RoundEditor';

/** What goes round on its own: how long that takes, when, and through which keys. */
export function UndercurrentInspector({ own }: { own: Undercurrent }) {
  const piece = useBench((b) => b.document);
  const section = piece.sections?.find(({ id }) => id === own.section);
  return (
    <>
      <small className="quiet">undercurrent</small>
      <h2>{own.name}</h2>
      <p className="quiet">
        {section
          ? `Goes along ${section.name} as it is scrolled through.`
          : 'Goes round on its own for as long as the piece plays.'}
        {' States no longer say what it moves.'}
      </p>
      <TextField
        label="name"
        value={own.name}
        commit={(name) => make(edits.setUndercurrent(piece, own, 'Name', { name }))}
      />
      <div className="pairs">
        <NumberField
          label="period"
          unit="ms"
          step={10}
          value={own.period_ms}
          commit={async (ms) => make(edits.setPeriod(piece, own, ms))}
        />
        {!section && (
          <NumberField
            label="phase"
            name="phase, ms that have passed at the start"
            unit="ms"
            step={10}
            value={own.phase_ms ?? 0}
            commit={(ms) => make(edits.setUndercurrent(piece, own, 'Phase', { phase_ms: ms }))}
          />
        )}
      </div>
      {!section && (
        <div className="chips">
          <span className="quiet">copies may set</span>
          <OfferChip kind="time" bind={{ undercurrent: own.id }} label="its period" name={`period of ${own.name}`} />
        </div>
      )}
      <InStates own={own} />
      <CommonLoop />
      {edits.roundsOf(own).map((round, at) => (
        <RoundEditor key={`${round.property} ${round.at[0]}`} own={own} at={at} />
      ))}
      <AddRound own={own} />
      <Flex gap={4}>
        <PlainButton onClick={() => void attempt(edits.removeUndercurrent(piece, own))}>
          delete undercurrent
        </PlainButton>
        <PlainButton onClick={() => choose({ undercurrent: null })}>done</PlainButton>
      </Flex>
    </>
  );
}

/** Everywhere, or in the states that are ticked and on the ways between them. */
function InStates({ own }: { own: Undercurrent }) {
  const piece = useBench((b) => b.document);
  const set = (states: string[] | null) =>
    void attempt(edits.setUndercurrent(piece, own, 'States', { states: states }));
  const chosen = own.states ?? null;
  if (piece.states.length < 2 && !chosen) return null;
  return (
    <>
      <Choice
        block
        aria-label="Where it runs"
        value={chosen ? 'some' : 'all'}
        options={[
          { value: 'all', label: 'in all states' },
          { value: 'some', label: 'in some' },
        ]}
        onChange={(which) => set(which === 'all' ? null : piece.states.map(({ id }) => id))}
      />
      {chosen && (
        <Checkbox.Group
          aria-label="States in which it runs"
          value={[...chosen]}
          options={piece.states.map(({ id, name }) => ({
            value: id,
            label: name,
            // Without any it would never be seen.
            disabled: chosen.length === 1 && chosen[0] === id,
          }))}
          onChange={(ids) => set(piece.states.map(({ id }) => id).filter((id) => ids.includes(id)))}
        />
      )}
    </>
  );
}

function CommonLoop() {
  const run = useBench((b) => b.run);
  const count = useBench((b) => edits.undercurrentsOf(b.document).filter(({ section }) => !section).length);
  if (run.common_loop_ms === null)
    return count > 1 || run.loop_ms !== null ? (
      <p className="quiet">All that goes round takes too long to look the same again.</p>
    ) : null;
  if (count < 2 && (run.loop_ms === null || run.loop_ms === run.common_loop_ms)) return null;
  return (
    <p className="quiet">With all that goes round, the piece looks the same again after {run.common_loop_ms} ms.</p>
  );
}

/** One more property, of the layers that are chosen or of any one. */
function AddRound({ own }: { own: Undercurrent }) {
  const piece = useBench((b) => b.document);
  const pose = useBench((b) => b.poses[b.state]);
  const layers = useBench(chosenIds);
  const ids = layers ? layers.split(' ') : own.courses.slice(0, 1).map(({ layer }) => layer);
  const [asked, setAsked] = useState({ layer: '', property: '' });
  const all = walk(piece.layers ?? []).map(({ layer }) => layer);
  const of = asked.layer ? [asked.layer] : ids;
  const free = edits.freeToGoRound(piece, of);
  const property = free.find(({ name }) => name === asked.property) ?? free[0];
  return (
    <div className="pairs">
      <Select
        aria-label="Of which layer"
        value={asked.layer || 'chosen'}
        options={[
          { value: 'chosen', label: of.length && !asked.layer ? edits.namesOf(piece, ids) : 'what is chosen' },
          ...all.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(layer) => setAsked({ ...asked, layer: layer === 'chosen' ? '' : layer })}
      />
      <RoundChoice free={free} value={property?.name} onChange={(name) => setAsked({ ...asked, property: name })} />
      <PlainButton
        disabled={!property}
        title={property ? 'From what it is now; then set its keys' : 'All that could go round does'}
        onClick={() => property && pose && void tried((now) => edits.addRound(now, own, pose, of, property.name))}
      >
        + property
      </PlainButton>
    </div>
  );
}

const chosenIds = (b: Parameters<typeof chosenLayers>[0]) => chosenLayers(b).join(' ');
