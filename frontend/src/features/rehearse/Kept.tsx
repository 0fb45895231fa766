import { Button, Flex } from 'antd';
import { useState } from 'react';
import { Input } from '../../shared/ui/Input';
import { PlainButton } from '../../shared/ui/PlainButton';
import { api } from '../../api/client';
import { EVERY_WAY } from '../workbench';
import type { EventModel, KeptRehearsal, MadeRehearsal } from '../../api/contract';
import { changeOf } from './words';

interface Props {
  piece: string;
  made: MadeRehearsal;
  kept: readonly KeptRehearsal[];
  act: (events: readonly EventModel[]) => void;
  keep: (name: string) => Promise<boolean>;
  drop: (number: number) => void;
}

const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;
/** Rehearsals that can be played again: the one that the core makes, and those that were kept. */
export function Kept({ piece, made, kept, act, keep, drop }: Props) {
  const [chosen, setChosen] = useState('');
  const entry = (key: string, name: string, { events, until_ms }: MadeRehearsal) => ({
    isChosen: key === chosen,
    act: () => {
      setChosen(key);
      act(events);
    },
    piece,
    which: key,
    name,
    events,
    until_ms,
  });
  return (
    <section className="kept" aria-label="Kept rehearsals">
      <h2>Kept rehearsals</h2>
      <ul>
        <Entry {...entry(EVERY_WAY, 'Every way once', made)} />
        {kept.map((each) => (
          <Entry
            key={each.number}
            {...entry(String(each.number), each.name, each as MadeRehearsal)}
            drop={() => drop(each.number)}
            change={changeOf(each)}
          />
        ))}
      </ul>
      <Keep keep={keep} count={kept.length} />
    </section>
  );
}

interface EntryProps extends MadeRehearsal {
  name: string;
  piece: string;
  which: string;
  isChosen: boolean;
  act: () => void;
  drop?: () => void;
  change?: string;
}

/** A rehearsal; what can be had of it once it is chosen. */
function Entry({ name, piece, which, events, until_ms, isChosen, act, drop, change }: EntryProps) {
  return (
    <li data-chosen={isChosen || undefined}>
      <PlainButton className="act ellipsis" onClick={act} title="Play it again">
        {name}
      </PlainButton>
      <span className="quiet num">{seconds(until_ms)}</span>
      {drop && (
        <PlainButton aria-label={`Delete ${name}`} title="Delete" onClick={drop}>
          ×
        </PlainButton>
      )}
      {isChosen && <Leads name={name} piece={piece} which={which} events={events} />}
      {change && <p className="changed">{change}</p>}
    </li>
  );
}

/** What can be had of a rehearsal. */
function Leads({ name, piece, which, events }: Pick<EntryProps, 'name' | 'piece' | 'which' | 'events'>) {
  return (
    <div className="leads">
      <a href={api.handoffAddress(piece, 'html', { of: which })} download title="A web page that plays it">
        web page
      </a>
      <a href={api.rehearsalStrip(piece, which)} target="_blank" rel="noreferrer" title="Moments of it in one picture">
        filmstrip
      </a>
      <a
        title="What is done in it, as a file for keen-ripple rehearse"
        download={`${name}.json`}
        href={`data:application/json,${encodeURIComponent(JSON.stringify(events))}`}
      >
        events
      </a>
    </div>
  );
}

function Keep({ keep, count }: { keep: Props['keep']; count: number }) {
  const [name, setName] = useState('');
  const done = async () => {
    if (await keep(name.trim() || `Rehearsal ${count + 1}`)) setName('');
  };
  return (
    <Flex
      component="form"
      gap={6}
      onSubmit={(event) => {
        event.preventDefault();
        void done();
      }}
    >
      <Input
        aria-label="Name of the rehearsal"
        placeholder={`Rehearsal ${count + 1}`}
        maxLength={120}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button htmlType="submit" title="Keep what happened so far, to act it again">
        Keep
      </Button>
    </Flex>
  );
}
