import { Flex } from 'antd';
import { useState } from 'react';
import { Choice } from '../../../shared/ui/Choice';
import { NumberField } from '../../../shared/ui/Field';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { tried } from '../actions';
import { MEDIA_FILES, readMedium } from '../artwork';
import { useBench } from '../bench';
import { choose } from '../choosing';
import {
  CannotBe,
  mediumOf,
  often,
  playByStates,
  playedBy,
  playOnTheWay,
  playRound,
  replaceMedium,
  waysTo,
} from '../edits';
import { stateNamed } from '../tree';
import { FileButton } from './FileButton';

const TITLES = ['From its beginning to its end, at its own pace', 'From its end to its beginning, at its own pace'];

const MOST = 100;

/** How a medium plays, and another in its place. */
export function MediumFields({ id }: { id: string }) {
  const piece = useBench((b) => b.document);
  const state = useBench((b) => b.state);
  const own = playedBy(piece, id);
  const name = stateNamed(piece, state).name;
  const [times, setTimes] = useState(1);
  const count = (wanted: number) =>
    Number.isInteger(wanted) && wanted >= 1 && wanted <= MOST
      ? Promise.resolve(setTimes(wanted))
      : Promise.reject(new CannotBe(`Type a whole number from 1 to ${MOST}.`));
  const leads = waysTo(piece, state).some((way) => way.style !== 'cut');
  return (
    <Flex vertical gap={6} component="section" aria-label="How it plays">
      <Flex justify="space-between" align="center">
        <h3>Plays {mediumOf(piece, id).length_ms} ms</h3>
        <FileButton
          label="File for the medium"
          accept={MEDIA_FILES}
          take={async (file) => {
            const medium = await readMedium(file);
            await tried((now) => replaceMedium(now, id, medium));
          }}
        >
          replace…
        </FileButton>
      </Flex>
      <Choice
        block
        aria-label="How often it plays"
        value={own ? 'round' : 'states'}
        options={[
          { value: 'round', label: 'over and over' },
          { value: 'states', label: 'as states say' },
        ]}
        onChange={(how) => void tried((now) => (how === 'round' ? playRound(now, id) : playByStates(now, id)))}
      />
      {own ? (
        <PlainButton title="Its pace, its phase, where it runs" onClick={() => choose({ undercurrent: own.id })}>
          {own.name}…
        </PlainButton>
      ) : (
        <p className="quiet">Each state says where its playhead stands; transitions play from one to the other.</p>
      )}
      <NumberField label="plays" name="how often it plays on the way" unit="×" value={times} commit={count} />
      {[false, true].map((backwards) => (
        <PlainButton
          key={String(backwards)}
          disabled={!leads}
          title={leads ? TITLES[Number(backwards)] : `No transition that takes time leads to ${name}`}
          onClick={() => void tried((now) => playOnTheWay(now, id, state, times, backwards))}
        >
          {`play ${often(times)}${backwards ? ' backwards' : ''} on the way to ${name}`}
        </PlainButton>
      ))}
    </Flex>
  );
}
