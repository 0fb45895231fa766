import { Flex, Select } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import type { Lane } from '../../api/contract';
import { NumberField } from '../../shared/ui/Field';
import {
  attempt,
  edits,
  goToOriginal,
  labelIn,
  labelOf,
  make,
  originalOf,
  propertyNamed,
  stateNamed,
  TimingEditor,
  transitionNamed,
  useBench,
} from '../workbench';
import { laneOfBar, type Bar } from './model';
import { known } from '../../shared/known';
import { PlainButton } from '../../shared/ui/PlainButton';

type From = 'start' | edits.Anchor['edge'];

const FROM: { value: From; label: string }[] = [
  { value: 'start', label: 'from the start' },
  { value: 'with', label: 'with' },
  { value: 'after', label: 'after' },
  { value: 'before-end', label: 'before the end of' },
];

/** When the chosen bar starts, counted from what, and along which curve it goes. */
export function BarPanel(props: { bar: Bar; count: number; bars: readonly Bar[] }) {
  return laneOfBar(props.bar).ofCopy ? <CopyPanel bar={props.bar} /> : <OwnPanel {...props} />;
}

/** What moves inside of a copy goes by its original; only when it begins is said here. */
function CopyPanel({ bar }: { bar: Bar }) {
  const bench = useBench(useShallow(({ document, layers, originals }) => ({ document, layers, originals })));
  const { layer: copy, property } = laneOfBar(bar);
  const lane = edits.laneOf(bench.document.transitions ?? [], bar.transition, copy, property);
  const original = originalOf(bench, copy);
  return (
    <Flex vertical gap={9} component="section" className="bar-panel">
      <small className="quiet">from the original, {original?.name}</small>
      <h2>
        {labelIn(bench, bar.layer)} · {propertyNamed(bar.property).label}
      </h2>
      <NumberField
        label={`${labelOf(bench.document, copy)} begins after`}
        name="Way begins after"
        unit="ms"
        step={10}
        value={lane?.delay_ms ?? 0}
        commit={(delay_ms) => make(edits.setLane(bench.document, bar.transition, copy, { delay_ms }, property))}
      />
      <p className="quiet">
        starts {Math.round(bar.start_ms)}, ends {Math.round(bar.end_ms)} ms of the run
      </p>
      <PlainButton onClick={() => goToOriginal(bench.document, copy)}>Go to original</PlainButton>
    </Flex>
  );
}

function OwnPanel({ bar, count, bars }: { bar: Bar; count: number; bars: readonly Bar[] }) {
  const { document: piece, readings } = useBench(useShallow(({ document, readings }) => ({ document, readings })));
  const transition = transitionNamed(piece, bar.transition);
  const stateName = (id: string) => stateNamed(piece, id).name;
  const lane = edits.laneOf(known(piece.transitions), bar.transition, bar.layer, bar.property);
  const property = lane?.property ?? null;
  const set = (values: edits.LaneValues) => edits.setLane(piece, bar.transition, bar.layer, values, property);
  const own = (transition.lanes ?? []).findIndex((other) => other === lane);
  const reading = lane?.timing ? readings[bar.transition]?.lanes[own] : readings[bar.transition];
  const late = lane?.anchor ? 0 : bar.start_ms - bar.base_ms - (lane?.delay_ms ?? 0);
  return (
    <Flex vertical gap={9} component="section" className="bar-panel">
      <small className="quiet">
        {stateName(transition.from)} → {stateName(transition.to)}
        {count > 1 && ` · ${count} bars`}
      </small>
      <h2>
        {labelOf(piece, bar.layer)} · {propertyNamed(bar.property).label}
      </h2>
      <Start bar={bar} bars={bars} lane={lane} set={set} />
      <p className="quiet">
        starts {Math.round(bar.start_ms)}, ends {Math.round(bar.end_ms)} ms of the run
        {late > 0 && `, ${Math.round(late)} of it by the stagger`}
      </p>
      {property && (
        <p className="quiet">
          Has its own timing.{' '}
          <PlainButton onClick={() => void attempt(edits.removeLane(piece, bar.transition, bar.layer, property))}>
            Move it with its layer
          </PlainButton>
        </p>
      )}
      <TimingEditor
        key={bar.key}
        timing={lane?.timing ?? transition.timing}
        reading={reading}
        commit={(timing) => make(set({ timing }))}
      />
    </Flex>
  );
}

interface StartProps {
  bar: Bar;
  bars: readonly Bar[];
  lane: Lane | undefined;
  set: (values: edits.LaneValues) => edits.Edit;
}

/** From when it counts, and how much later it starts. */
function Start({ bar, bars, lane, set }: StartProps) {
  const piece = useBench((b) => b.document);
  const others = layersBeside(bar, bars);
  const anchor = lane?.anchor ?? null;
  const setFrom = (from: From, layer = anchor?.layer ?? others[0]) =>
    void attempt(
      set({
        anchor: from === 'start' || !layer ? null : { edge: from, layer },
        delay_ms: from === 'start' ? Math.max(bar.start_ms - bar.base_ms, 0) : 0,
      }),
    );
  return (
    <>
      <div className="pairs">
        <Select<From>
          aria-label="Starts"
          value={anchor?.edge ?? 'start'}
          popupMatchSelectWidth={false}
          options={others.length ? FROM : FROM.slice(0, 1)}
          onChange={(from) => setFrom(from)}
        />
        <NumberField
          label="by"
          name="Starts by"
          unit="ms"
          step={10}
          value={lane?.delay_ms ?? 0}
          commit={(v) => make(set({ delay_ms: v }))}
        />
      </div>
      {anchor && (
        <Select
          aria-label="Starts counted from"
          value={anchor.layer ?? ''}
          options={others.map((id) => ({ value: id, label: labelOf(piece, id) }))}
          onChange={(layer: string) => setFrom(anchor.edge, layer)}
        />
      )}
    </>
  );
}

/** The other layers that move in the same part of the run. */
function layersBeside(bar: Bar, bars: readonly Bar[]): string[] {
  const beside = bars.filter((other) => other.base_ms === bar.base_ms && other.layer !== bar.layer);
  // What moves inside of a copy is counted from as that copy.
  return [...new Set(beside.map((other) => laneOfBar(other).layer))];
}
