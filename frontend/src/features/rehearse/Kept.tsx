import { Button, Flex } from 'antd';
import { useState } from 'react';
import { Input } from '../../shared/ui/Input';
import { PlainButton } from '../../shared/ui/PlainButton';
import type { EventModel, KeptRehearsal, MadeRehearsal } from '../../api/contract';
import { changeOf } from './words';

interface Props {
  made: MadeRehearsal;
  kept: readonly KeptRehearsal[];
  act: (events: readonly EventModel[]) => void;
  keep: (name: string) => Promise<boolean>;
  drop: (number: number) => void;
}

const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;

/** Rehearsals that can be acted again: the one that the core makes, and those that were kept. */
export function Kept({ made, kept, act, keep, drop }: Props) {
  return (
    <section className="kept" aria-label="Kept rehearsals">
      <h2>Kept rehearsals</h2>
      <ul>
        <li>
          <PlainButton className="act ellipsis" onClick={() => act(made.events)} title="Play it again">
            Every way once
          </PlainButton>
          <span className="quiet num">{seconds(made.until_ms)}</span>
        </li>
        {kept.map((each) => (
          <li key={each.number}>
            <PlainButton className="act ellipsis" onClick={() => act(each.events)} title="Play it again">
              {each.name}
            </PlainButton>
            <span className="quiet num">{seconds(each.until_ms)}</span>
            <a
              aria-label={`Events of ${each.name} as a file`}
              title="Its events as a file, for keen-ripple rehearse"
              download={`${each.name}.json`}
              href={`data:application/json,${encodeURIComponent(JSON.stringify(each.events))}`}
            >
              file
            </a>
            <PlainButton aria-label={`Delete ${each.name}`} title="Delete" onClick={() => drop(each.number)}>
              ×
            </PlainButton>
            {changeOf(each) && <p className="changed">{changeOf(each)}</p>}
          </li>
        ))}
      </ul>
      <Keep keep={keep} count={kept.length} />
    </section>
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
