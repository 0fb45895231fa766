import { Button, Flex } from 'antd';
import { useCallback, useMemo, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { api } from '../../api/client';
import { known } from '../../shared/known';
import type { Tables } from '../../runtime/data';
import type { Session, Told } from '../../runtime/session';
import { pictureOf, UsedPiece } from '../player';
import { awaited, BenchFrame, isByAPerson, rehearsal, Speeds, useBench, useRehearsals, useSize } from '../workbench';
import { follow, type Rehearsed } from './happenings';
import { Happened } from './Happened';
import { Kept } from './Kept';
import './rehearse.css';
import { StateMap } from './StateMap';
import { Strip } from './Strip';
import { whereOf } from './words';

export const RehearsePage = () => <BenchFrame view={Rehearse} keys={['Everywhere', 'Rehearse']} />;

/** Room around the piece, for the controls. */
const MARGIN = 112;

function Rehearse() {
  const { id, data, error, changed } = useRehearsals();
  const piece = useBench((b) => b.document);
  const { store, told, listen } = useMemo(() => follow(piece.start), [piece.start]);
  const [session, setSession] = useState<Session | null>(null);
  const begin = useCallback((next: Session | null) => {
    rehearsal.session = next;
    setSession(next);
  }, []);
  if (!data) {
    return (
      <Flex component="main" className="rehearse" align="center" justify="center">
        {error ? <p role="alert">{error.message}</p> : 'Opening…'}
      </Flex>
    );
  }
  const keep = (name: string) =>
    session
      ? changed(api.keepRehearsal(id, { name, events: [...session.events] as never, until_ms: session.now }))
      : Promise.resolve(false);
  return (
    <main className="rehearse">
      <aside className="ways" aria-label="States">
        <h2>States</h2>
        <OnStage store={store} />
        <Awaited store={store} />
        <Kept
          piece={id}
          made={data.made}
          kept={data.kept}
          act={(events) => session?.perform(events)}
          keep={keep}
          drop={(number) => void changed(api.dropRehearsal(id, number))}
        />
      </aside>
      <Used
        tables={data.tables}
        told={told}
        store={store}
        session={session}
        onSession={begin}
        made={data.made.events}
      />
      <Happened piece={piece} tables={data.tables} store={store} listen={listen} />
      <Strip tables={data.tables} store={store} session={session} listen={listen} />
    </main>
  );
}

function OnStage({ store }: { store: Rehearsed }) {
  const piece = useBench((b) => b.document);
  const state = store((s) => s.state);
  const last = store((s) => s.list.findLast(({ taken }) => taken)?.taken?.transition.id ?? null);
  return (
    <div className="state-map-frame">
      <StateMap piece={piece} state={state} last={last} />
    </div>
  );
}

/** What can be done now, and where it leads. */
function Awaited({ store }: { store: Rehearsed }) {
  const piece = useBench((b) => b.document);
  const state = store((s) => s.state);
  const name = (id: string) => piece.states.find((each) => each.id === id)?.name ?? id;
  const leaving = (piece.transitions ?? []).filter((t) => t.from === state);
  const waits = leaving.filter((t) => isByAPerson(t.cue ?? 'hold'));
  if (!waits.length) {
    const text = leaving.length ? `${name(state)} goes on by itself.` : `Nothing leads on from ${name(state)}.`;
    return <p className="quiet awaited">{text}</p>;
  }
  return (
    <ul className="awaited" aria-label={`${name(state)} waits for`}>
      {waits.map((t) => (
        <li key={t.id}>
          {awaited(t.cue ?? 'hold', t.cue_key)} <span className="quiet">on {whereOf(piece, t.cue_layer)}</span> →{' '}
          {name(t.to)}
        </li>
      ))}
    </ul>
  );
}

interface UsedProps {
  tables: Tables;
  told: Told;
  store: Rehearsed;
  session: Session | null;
  onSession: (session: Session | null) => void;
  made: NonNullable<ReturnType<typeof useRehearsals>['data']>['made']['events'];
}

/** The piece at its real size, or as large as there is room. */
function Used({ tables, told, store, session, onSession, made }: UsedProps) {
  const picture = useBench(useShallow((b) => pictureOf(b.document, b.layers)));
  const pose = useBench((b) => known(b.poses[b.document.start]));
  const { ref, size } = useSize<HTMLDivElement>();
  const fits = Math.min(1, (size.width - 40) / picture.width, (size.height - MARGIN) / picture.height);
  const zoom = Math.max(fits, 0.05);
  return (
    <section className="stage used-stage" ref={ref} aria-label="The piece, to be used" data-stage="rehearse">
      <div className="stage-label num">
        {picture.width} × {picture.height} px at {Math.round(zoom * 100)}%
      </div>
      <UsedPiece piece={picture} pose={pose} tables={tables} zoom={zoom} told={told} onSession={onSession} />
      <Flex align="center" gap={8} className="stage-foot">
        {session && <Controls session={session} store={store} made={made} />}
      </Flex>
    </section>
  );
}

function Controls({ session, store, made }: { session: Session; store: Rehearsed; made: UsedProps['made'] }) {
  const playing = store((s) => s.playing);
  const rate = store((s) => s.rate);
  return (
    <>
      <Button onClick={() => session.pause(playing)} title="Pause or go on (Space)" style={{ width: 64 }}>
        {playing ? 'Pause' : 'Go on'}
      </Button>
      <Button onClick={() => session.step(1)} title="One frame on (.)">
        Frame on
      </Button>
      <Speeds rate={rate} setRate={(value) => session.setRate(value)} />
      <Button onClick={() => session.perform([])} title="From the start, with nothing done yet">
        Start over
      </Button>
      <Button onClick={() => session.perform(made)} title="Watch every transition once, without doing anything">
        Act for me
      </Button>
    </>
  );
}
