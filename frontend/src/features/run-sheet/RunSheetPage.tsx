import { Button, Flex } from 'antd';
import type { Run } from '../../api/contract';
import { useMemo, useState, type ReactNode } from 'react';
import { Chip } from '../../shared/ui/Chip';
import { NumberField } from '../../shared/ui/Field';
import { PlainButton } from '../../shared/ui/PlainButton';
import {
  edits,
  BenchFrame,
  CloseLoop,
  howToPlay,
  LoopStage,
  PlaysWhat,
  playWays,
  Retime,
  standingStill,
  useBench,
  usePlayed,
  setFps,
  useTrial,
  useWatch,
  choose as chooseOnBench,
  TransitionInspector,
  undercurrentOf,
  UndercurrentInspector,
} from '../workbench';
import { BarPanel } from './BarPanel';
import { Filmstrip } from './Filmstrip';
import { Marks } from './Marks';
import { marksOf } from './findings';
import { barsOf, rowsOf, type Bar, type Snap } from './model';
import './run-sheet.css';
import { ScrollSheet } from './ScrollSheet';
import { Sheet } from './Sheet';
import { StaggerPanel } from './StaggerPanel';

type SnapTo = 'ends' | '10 ms' | 'frames';
const SNAPS: [SnapTo, string][] = [
  ['ends', 'snap to ends'],
  ['10 ms', '10 ms'],
  ['frames', 'frames'],
];

/** The whole run along an axis of time. */
export const RunSheetPage = () => <BenchFrame view={OpenSheet} keys={KEYS} />;

const KEYS = ['Everywhere', 'Loop', 'Watch', 'Size on the screen'];

const CHOOSE = 'Choose a bar for its start, its length and its curve, or a stretch of the axis for its transition.';
const TIMED_BY_ORIGINALS = 'What moves here moves by itself: it is timed in its original.';

function OpenSheet() {
  const [scrolls, setScrolls] = useState(false);
  const hasSections = useBench((b) => edits.sectionsOf(b.document).length > 0);
  const byScroll = scrolls && hasSections;
  const axis = hasSections && (
    <Chip pressed={byScroll} title="The way scrolled as the axis" onClick={() => setScrolls(!byScroll)}>
      by the scroll
    </Chip>
  );
  return byScroll ? <ScrollSheet axis={axis} /> : <RunSheet axis={axis} />;
}

/** `axis`: what takes another axis instead of time. */
function RunSheet({ axis }: { axis: ReactNode }) {
  const piece = useBench((b) => b.document);
  const { run, readings, seam } = usePlayed(({ run, readings, seam }) => ({ run, readings, seam }));
  const tried = useTrial((t) => t.trial !== null);
  const bars = useMemo(() => barsOf(run, readings), [run, readings]);
  // Rows stay the same list while they hold the same, so that an edit of a time draws bars alone.
  const order = useLayerOrder();
  const rows = useSame(useMemo(() => rowsOf(bars, order), [bars, order]));
  const marks = useMemo(() => marksOf(bars, run, seam, piece.transitions ?? []), [bars, run, seam, piece]);
  const { chosen, choose, chooseWay } = useChosenBars(bars);
  const [snapTo, setSnap] = useState<SnapTo>('ends');
  const fps = useWatch((w) => w.fps);
  const snap: Snap = snapTo === 'frames' ? fps : snapTo;
  const [staggers, setStaggers] = useState(false);
  const picked = bars.filter((bar) => chosen.includes(bar.key));
  return (
    <div className="sheet-body">
      <main className={tried ? 'sheet-main tried' : 'sheet-main'}>
        {rows.length || goesOn(run) ? (
          <Sheet
            bars={bars}
            rows={rows}
            chosen={chosen}
            choose={choose}
            chooseWay={chooseWay}
            snap={snap}
            marks={marks}
          />
        ) : (
          <NothingMoves />
        )}
        <Foot
          axis={axis}
          snap={snapTo}
          setSnap={setSnap}
          hasRows={rows.length > 0}
          picked={picked.length}
          stagger={() => setStaggers(!staggers)}
        />
      </main>
      <Flex vertical gap={9} component="aside" className="sheet-side inspector" aria-label="Inspector">
        <LoopStage />
        {staggers && picked.length > 1 && <StaggerPanel bars={picked} />}
        <Chosen picked={picked} bars={bars} hasRows={rows.length > 0} hasVoices={run.voices.length > 0} />
        <Marks marks={marks} choose={choose} />
        <CloseLoop />
        <Retime />
      </Flex>
    </div>
  );
}

function useChosenBars(bars: readonly Bar[]) {
  const [asked, setChosen] = useState<readonly string[]>([]);
  // What was chosen and is gone by an edit is chosen no longer.
  const chosen = asked.filter((key) => bars.some((bar) => bar.key === key));
  const choose = (keys: readonly string[]) => {
    if (keys.length) chooseOnBench({ undercurrent: null });
    // What is chosen already is not drawn anew.
    setChosen((before) => (before.join() === keys.join() ? before : keys));
  };
  const chooseWay = (transition: string) => {
    setChosen([]);
    chooseOnBench({ transition, lane: null });
  };
  return { chosen, choose, chooseWay };
}

/** Whether something beside the states moves. */
const goesOn = (run: Run) =>
  run.voices.some((voice) => voice.run.total_ms) || run.undercurrents.some(({ section }) => section === null);

interface ChosenProps {
  picked: readonly Bar[];
  bars: readonly Bar[];
  hasRows: boolean;
  hasVoices: boolean;
}

/** What can be set of what is chosen: bars, or a transition. */
function Chosen({ picked, bars, hasRows, hasVoices }: ChosenProps) {
  const way = useBench((b) => b.document.transitions?.find((t) => t.id === b.transition));
  const undercurrent = useBench((b) => undercurrentOf(b.document, b.undercurrent));
  if (undercurrent) return <UndercurrentInspector key={undercurrent.id} own={undercurrent} />;
  if (picked.length) return <BarPanel picked={picked} bars={bars} />;
  if (way) return <TransitionInspector key={way.id} transition={way} />;
  return <p className="quiet">{hasRows ? CHOOSE : hasVoices && TIMED_BY_ORIGINALS}</p>;
}

interface FootProps {
  axis: ReactNode;
  snap: SnapTo;
  setSnap: (snap: SnapTo) => void;
  hasRows: boolean;
  picked: number;
  stagger: () => void;
}

const Foot = ({ axis, snap, setSnap, hasRows, picked, stagger }: FootProps) => (
  <Flex component="footer" align="center" gap={12} className="foot" style={{ height: 44 }}>
    {axis}
    <PlaysWhat />
    <Snaps snap={snap} setSnap={setSnap} />
    {hasRows && (
      <span className="quiet ellipsis">
        Drag bars or their ends. Shift chooses several, and on the ruler a part to play
      </span>
    )}
    <span className="spring" />
    <Filmstrip />
    <Button disabled={picked < 2} title={picked < 2 ? 'Choose the bars of two layers or more' : ''} onClick={stagger}>
      Stagger…
    </Button>
  </Flex>
);

/** Why the sheet is empty, and what to do. */
function NothingMoves() {
  const piece = useBench((b) => b.document);
  const run = usePlayed((p) => p.run);
  return (
    <p className="hint">
      {standingStill(piece, run) ?? 'Nothing moves: the states that it goes through look the same'}.{' '}
      {howToPlay(piece, run)}
      {!run.total_ms && !!piece.transitions?.length && (
        <>
          {' '}
          <PlainButton onClick={() => playWays('all')}>Lay out its transitions here</PlainButton>
        </>
      )}
    </p>
  );
}

/** What is pulled snaps to; frames are counted by the rate beside them. */
function Snaps({ snap, setSnap }: { snap: SnapTo; setSnap: (snap: SnapTo) => void }) {
  const fps = useWatch((w) => w.fps);
  return (
    <Flex gap={4} role="group" aria-label="Snap">
      {SNAPS.map(([value, label]) => (
        <Chip key={value} pressed={snap === value} onClick={() => setSnap(value)}>
          {label}
        </Chip>
      ))}
      <NumberField
        label=""
        name="Frames per second"
        unit="fps"
        width={72}
        value={fps}
        commit={async (wanted) => setFps(wanted)}
      />
    </Flex>
  );
}

/** The list that was there before, for as long as a new one holds the same. */
function useSame<T>(list: readonly T[]): readonly T[] {
  const [known, setKnown] = useState(list);
  const same = known.length === list.length && known.every((item, i) => item === list[i]);
  if (!same) setKnown(list);
  return same ? known : list;
}

function useLayerOrder() {
  const drawn = useBench((b) => b.layers ?? b.document.layers);
  return useMemo(() => layerOrder(drawn ?? []), [drawn]);
}

/** Ids from the top of the picture down, groups before their content. */
function layerOrder(layers: readonly { id: string; layers?: readonly unknown[] | null }[]): string[] {
  return [...layers].reverse().flatMap((layer) => [layer.id, ...layerOrder((layer.layers ?? []) as { id: string }[])]);
}
