import { Button } from 'antd';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { known } from '../../../shared/known';
import { Chip } from '../../../shared/ui/Chip';
import type { Session } from '../../../runtime/session';
import { pictureOf, UsedPiece } from '../../player';
import { useBench } from '../bench';
import { useRehearsals } from '../rehearsals';
import { Speeds } from '../watch/Speeds';
import { switchUsing, useWatch } from '../watch/watch';

/** The piece on the loop stage as it answers to whoever uses it, with what controls it. */
export function useUsed(zoom: number, wanted: boolean) {
  const { data } = useRehearsals(wanted);
  const picture = useBench(useShallow((b) => pictureOf(b.document, b.layers)));
  const pose = useBench((b) => known(b.poses[b.document.start]));
  const [session, setSession] = useState<Session | null>(null);
  const [{ playing, rate }, setGoing] = useState({ playing: true, rate: 1 });
  const told = useMemo(() => ({ switched: ({ playing, rate }: Session) => setGoing({ playing, rate }) }), []);
  const begin = useCallback((next: Session | null) => setSession(next), []);
  const acts = useWatch((w) => w.acts);
  useEffect(() => {
    if (!session || !acts || !data) return;
    useWatch.setState({ acts: false });
    session.perform(data.made.events);
  }, [session, acts, data]);
  if (!wanted || !data) return null;
  const piece = (
    <UsedPiece piece={picture} pose={pose} tables={data.tables} zoom={zoom} told={told} onSession={begin} />
  );
  const controls = session && <UsedControls session={session} playing={playing} rate={rate} made={data.made.events} />;
  return { piece, controls };
}

interface Props {
  session: Session;
  playing: boolean;
  rate: number;
  made: NonNullable<ReturnType<typeof useRehearsals>['data']>['made']['events'];
}

function UsedControls({ session, playing, rate, made }: Props) {
  return (
    <>
      <Button onClick={() => session.pause(playing)} style={{ width: 60 }}>
        {playing ? 'Pause' : 'Go on'}
      </Button>
      <Speeds rate={rate} setRate={(value) => session.setRate(value)} />
      <Chip title="Watch every transition once, without doing anything" onClick={() => session.perform(made)}>
        act for me
      </Chip>
    </>
  );
}

/** Offered where the piece stands still: it is used, by nobody's hand. */
export function ActForMe() {
  return (
    <Chip
      title="Watch every transition once, without doing anything"
      onClick={() => useWatch.setState({ uses: true, acts: true })}
    >
      act for me
    </Chip>
  );
}

/** Whether the stage plays what happens by itself, or answers to whoever uses the piece. */
export function UseSwitch({ used }: { used: boolean }) {
  return (
    <Chip
      className="use-switch"
      pressed={used}
      title={used ? 'Play what happens by itself' : 'Use the piece here, with pointer, finger and keys'}
      onClick={switchUsing}
    >
      use it
    </Chip>
  );
}
