import { Flex, Select } from 'antd';
import { useState } from 'react';
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
import { ManyBars } from './ManyBars';
import { Moments } from './Moments';
import { known, lastOf } from '../../shared/known';
import { PlainButton } from '../../shared/ui/PlainButton';

type From = 'start' | edits.Anchor['edge'];

const FROM: { value: From; label: string }[] = [
  { value: 'start', label: 'from the start' },
  { value: 'with', label: 'with' },
  { value: 'after', label: 'after' },
  { value: 'before-end', label: 'before the end of' },
];

/** When the chosen bar starts, counted from what, and along which curve it goes. */
export function BarPanel({ picked, bars }: { picked: readonly Bar[]; bars: readonly Bar[] }) {
  const bar = lastOf(picked);
  if (picked.length > 1) return <ManyBars picked={picked} />;
  return laneOfBar(bar).ofCopy ? <CopyPanel bar={bar} /> : <OwnPanel bar={bar} bars={bars} />;
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

function OwnPanel({ bar, bars }: { bar: Bar; bars: readonly Bar[] }) {
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
      </small>
      <h2>
        {labelOf(piece, bar.layer)} · {propertyNamed(bar.property).label}
      </h2>
      <Start bar={bar} bars={bars} lane={lane} set={set} />
      <Moments bar={bar} />
      {late > 0 && <p className="quiet">{Math.round(late)} ms of its start come from the stagger</p>}
      <Flex wrap>
        {property ? (
          <PlainButton
            title={`Goes with ${labelOf(piece, bar.layer)} again`}
            onClick={() => void attempt(edits.removeLane(piece, bar.transition, bar.layer, property))}
          >
            as the layer
          </PlainButton>
        ) : (
          bars.some((other) => isBeside(bar, other)) && (
            <PlainButton
              title={`Gives ${propertyNamed(bar.property).label} a duration and curve of its own`}
              onClick={() => void attempt(edits.timeAlone(piece, bar.transition, bar.layer, bar.property))}
            >
              time it by itself
            </PlainButton>
          )
        )}
        {lane?.timing && (
          <PlainButton
            title="Takes the duration and curve of the transition again"
            onClick={() => void attempt(set({ timing: null }))}
          >
            as the transition
          </PlainButton>
        )}
      </Flex>
      <TimingEditor
        key={bar.key}
        timing={lane?.timing ?? transition.timing}
        reading={reading}
        commit={(timing) => make(set({ timing }))}
      />
    </Flex>
  );
}

/** Another property of its layer, on the same way. */
const isBeside = (bar: Bar, other: Bar) =>
  other.layer === bar.layer && other.base_ms === bar.base_ms && other.property !== bar.property;

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
  // The other layer is chosen before anything is changed.
  const [asked, setAsked] = useState<edits.Anchor['edge'] | null>(null);
  const edge = asked ?? anchor?.edge ?? null;
  const link = (edge: edits.Anchor['edge'], layer: string) => {
    setAsked(null);
    void attempt(set({ anchor: { edge, layer }, delay_ms: 0 }));
  };
  const setFrom = (from: From) => {
    if (from !== 'start') return anchor?.layer ? link(from, anchor.layer) : setAsked(from);
    setAsked(null);
    if (anchor) void attempt(set({ anchor: null, delay_ms: Math.max(bar.start_ms - bar.base_ms, 0) }));
  };
  const circular = edits.linkedOn(transitionNamed(piece, bar.transition), laneOfBar(bar).layer);
  return (
    <>
      <div className="pairs">
        <Select<From>
          aria-label="Starts"
          value={edge ?? 'start'}
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
      {edge && (
        <Select
          aria-label="Starts counted from"
          placeholder="which layer?"
          {...(!asked && anchor?.layer && { value: anchor.layer })}
          options={others.map((id) => ({
            value: id,
            label: circular.has(id) ? `${labelOf(piece, id)}, which waits for this` : labelOf(piece, id),
            disabled: circular.has(id),
          }))}
          onChange={(layer: string) => link(edge, layer)}
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
