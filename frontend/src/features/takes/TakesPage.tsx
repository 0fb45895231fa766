import { useQuery } from '@tanstack/react-query';
import { Button, Flex, notification } from 'antd';
import { useState, useSyncExternalStore, type ReactNode } from 'react';
import { Input } from '../../shared/ui/Input';
import type { Computed, Difference, Take } from '../../api/contract';
import { api } from '../../api/client';
import { Choice } from '../../shared/ui/Choice';
import { updateTape } from '../player';
import {
  attempt,
  BenchFrame,
  clock,
  PlaysWhat,
  runOf,
  Speeds,
  useAsking,
  useBench,
  useCourse,
  usePlayed,
  type Ways,
} from '../workbench';
import { Differences } from './Differences';
import type { Step } from './inStep';
import { Playing } from './Playing';
import { TakeList } from './TakeList';
import './takes.css';
import { Vary } from './Vary';
import { known } from '../../shared/known';

/** The piece as it stands, and as many takes beside it. */
const MOST_BESIDE = 3;
const STEPS: { value: Step; label: string }[] = [
  { value: 'moment', label: 'Same moment' },
  { value: 'phase', label: 'Same phase' },
];
const NO_TAKES =
  'Keep the current timing, or make others of it here by varying it; what you change in the workbench or the run sheet plays beside them, in step.';

export const TakesPage = () => <BenchFrame view={Takes} />;

function Takes() {
  const { id, data, error, changed } = useTakes();
  const [step, setStep] = useState<Step>('moment');
  const rate = useSyncExternalStore(clock.onSwitch, () => clock.rate);
  const takes = data?.takes ?? [];
  const ways = useCourse((c) => c.ways);
  const { beside, show, putAway } = useBeside(takes);
  const [notices, noticesHere] = notification.useNotification();
  const drop = async ({ number, name }: Take) => {
    if (!(await changed(api.dropTake(id, number)))) return;
    const back = async () => {
      notices.destroy(number);
      await changed(api.restoreTake(id, number));
    };
    const actions = <Button onClick={() => void back()}>Put it back</Button>;
    notices.open({ key: number, title: `${name} is deleted`, actions });
  };
  return (
    <Flex vertical gap={12} component="main" className="takes">
      {noticesHere}
      <Flex component="header" align="center" gap={8}>
        <Choice<Step> aria-label="In step by" value={step} onChange={setStep} options={STEPS} />
        <PlayButton />
        <Speeds rate={rate} setRate={setRate} />
        <PlaysWhat />
        <span className="spring" />
        <Keep count={takes.length} keep={(name) => changed(api.keepTake(id, { name }))} />
      </Flex>
      {error && <p role="alert">{error.message}</p>}
      <div className="takes-grid" style={{ gridTemplateColumns: `repeat(${beside.length + 1}, minmax(0, 1fr))` }}>
        <Now step={step}>
          <Vary name="Current" keep={(take) => changed(api.keepTake(id, take))} />
        </Now>
        {beside.map((take) => (
          <Playing key={take.number} name={take.name} computed={tapeOf(known(take.computed), ways)} step={step}>
            <Button type="primary" size="small" onClick={() => void adopt(take)}>
              Adopt
            </Button>
            <Vary name={take.name} keep={(wish) => changed(api.keepTake(id, { ...wish, of: take.number }))} />
          </Playing>
        ))}
      </div>
      {!takes.length && <p className="quiet">{NO_TAKES}</p>}
      <TakeList
        takes={takes}
        shown={beside}
        show={show}
        putAway={putAway}
        rename={async (number, name) => void (await changed(api.renameTake(id, number, name)))}
        drop={(take) => void drop(take)}
      />
      {data && <Differences takes={takes.filter((take) => take.computed)} table={data.table} adopt={adoptOne} />}
    </Flex>
  );
}

/** The takes of the piece, and what asks for others. */
function useTakes() {
  const id = useBench((b) => b.id);
  // What stands in the piece may have changed alone.
  const version = useBench((b) => `${b.revision} ${b.holds}`);
  const changed = useAsking(['takes', id]);
  const { data, error } = useQuery({
    queryKey: ['takes', id, version],
    queryFn: () => api.takes(id),
    placeholderData: (before) => before,
  });
  return { id, data, error, changed };
}

/** Which takes play beside the piece. */
function useBeside(takes: readonly Take[]) {
  const [hidden, setHidden] = useState<readonly number[]>([]);
  const [fetchedOut, setFetchedOut] = useState<readonly number[]>([]);
  const show = (number: number) => {
    setHidden(hidden.filter((other) => other !== number));
    setFetchedOut([...fetchedOut.filter((other) => other !== number), number]);
  };
  return {
    beside: besideOf(takes, hidden, fetchedOut),
    show,
    putAway: (number: number) => setHidden([...hidden, number]),
  };
}

const setRate = (rate: number) => clock.setRate(rate);

/** One transition, or one undercurrent, as a take has it. */
function adoptOne(take: Take, { kind, id, name }: Difference): void {
  const list = `${kind}s` as const;
  const value = take[list].find((own) => own.id === id);
  const at = (useBench.getState().document[list] ?? []).findIndex((own) => own.id === id);
  if (value)
    void attempt({
      label: `Adopt ${name} of take ${take.name}`,
      patch: [{ op: at < 0 ? 'add' : 'replace', path: `/${list}/${at < 0 ? '-' : at}`, value }],
    });
}

const adopt = (take: Take) =>
  attempt({
    label: `Adopt take ${take.name}`,
    patch: [
      { op: 'add', path: '/transitions', value: take.transitions },
      { op: 'add', path: '/undercurrents', value: take.undercurrents },
    ],
  });

function PlayButton() {
  const playing = useSyncExternalStore(clock.onSwitch, () => clock.playing);
  return <Button onClick={() => clock.setPlaying(!playing)}>{playing ? 'Pause' : 'Play'}</Button>;
}

/** The newest, or those that were fetched out last; in their own order. */
function besideOf(takes: readonly Take[], hidden: readonly number[], fetchedOut: readonly number[]): Take[] {
  const able = takes.filter((take) => take.computed && !hidden.includes(take.number));
  const byUse = [...able].sort((a, b) => fetchedOut.indexOf(a.number) - fetchedOut.indexOf(b.number));
  const kept = byUse.slice(-MOST_BESIDE);
  return able.filter((take) => kept.includes(take));
}

const tapeOf = (computed: Computed, ways: Ways | null) => ({
  ...computed,
  run: runOf(ways, computed.transitions) ?? computed.run,
  tape: updateTape(new Map(), computed.transitions, Object.keys(computed.transitions)),
});

function Now({ step, children }: { step: Step; children: ReactNode }) {
  const computed = usePlayed(({ poses, run, tape }) => ({ poses, run, tape }));
  return (
    <Playing name="Current" computed={computed} step={step} leads>
      {children}
    </Playing>
  );
}

function Keep({ count, keep }: { count: number; keep: (name: string) => Promise<boolean> }) {
  const [name, setName] = useState('');
  const wanted = name.trim() || `Take ${count + 1}`;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void keep(wanted).then((kept) => kept && setName(''));
      }}
    >
      <Flex gap={8}>
        <Input
          style={{ width: 170 }}
          aria-label="Name of the take"
          value={name}
          placeholder={`Take ${count + 1}`}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="primary" htmlType="submit">
          Keep the current timing
        </Button>
      </Flex>
    </form>
  );
}
