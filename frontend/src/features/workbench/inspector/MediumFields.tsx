import { Flex } from 'antd';
import { useRef } from 'react';
import { Choice } from '../../../shared/ui/Choice';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { known } from '../../../shared/known';
import { tried } from '../actions';
import { readMedium } from '../artwork';
import { sayFault, useBench } from '../bench';
import { choose } from '../choosing';
import { mediumOf, playByStates, playedBy, playOnce, playRound, replaceMedium, waysTo } from '../edits';
import { stateNamed } from '../tree';

const MEDIA_FILES = 'image/gif,image/png,image/apng,image/webp,video/mp4,video/webm';

/** How a medium plays, and another in its place. */
export function MediumFields({ id }: { id: string }) {
  const piece = useBench((b) => b.document);
  const state = useBench((b) => b.state);
  const own = playedBy(piece, id);
  const name = stateNamed(piece, state).name;
  const leads = waysTo(piece, state).some((way) => way.style !== 'cut');
  return (
    <Flex vertical gap={6} component="section" aria-label="How it plays">
      <Flex justify="space-between" align="center">
        <h3>Plays {mediumOf(piece, id).length_ms} ms</h3>
        <Replace id={id} />
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
      <PlainButton
        disabled={!leads}
        title={
          leads ? 'From its beginning to its end, at its own pace' : `No transition that takes time leads to ${name}`
        }
        onClick={() => void tried((now) => playOnce(now, id, state))}
      >
        play once on the way to {name}
      </PlainButton>
    </Flex>
  );
}

function Replace({ id }: { id: string }) {
  const file = useRef<HTMLInputElement>(null);
  const take = async (input: HTMLInputElement) => {
    const chosen = input.files?.[0];
    // The same file may be chosen again.
    input.value = '';
    if (!chosen) return;
    try {
      const medium = await readMedium(chosen);
      await tried((now) => replaceMedium(now, id, medium));
    } catch (error) {
      sayFault(error);
    }
  };
  return (
    <>
      <PlainButton onClick={() => known(file.current).click()}>replace…</PlainButton>
      <input
        ref={file}
        type="file"
        hidden
        accept={MEDIA_FILES}
        aria-label="File for the medium"
        onChange={(event) => void take(event.target)}
      />
    </>
  );
}
