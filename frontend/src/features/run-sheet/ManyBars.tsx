import { Flex, Select } from 'antd';
import equal from 'fast-deep-equal';
import { TypedField } from '../../shared/ui/Field';
import { changeOf } from '../../shared/text/sums';
import { attempt, edits, labelOf, make, TimingEditor, transitionNamed, useBench } from '../workbench';
import { attemptTimes } from './barEdits';
import { laneOfBar, type Bar } from './model';
import { roomOf, type Place } from './places';
import { lastOf } from '../../shared/known';

type Change = (from: number) => number;

const parse = (text: string): { value: Change } | { fault: string } => {
  const value = changeOf(text, 'ms');
  return value ? { value } : { fault: 'Type a number for all of them, or a change of each such as +40, *0.5 or -10%.' };
};

/** Several bars: what is set here is set in all of them, or changes each from its own. */
export function ManyBars({ picked }: { picked: readonly Bar[] }) {
  const piece = useBench((b) => b.document);
  const own = picked.filter((each) => !laneOfBar(each).ofCopy);
  const move = (placeOf: (bar: Bar) => Place) => {
    const places = new Map(picked.map((each) => [each.key, placeOf(each)]));
    for (const each of picked) {
      const [start, end] = places.get(each.key) as Place;
      const least = roomOf(piece.transitions ?? [], [each]).least;
      if (start < each.start_ms + least - 0.5)
        throw new Error(
          `${labelOf(piece, each.layer)} would start before ${Math.round(each.start_ms + least - each.base_ms)} ms.`,
        );
      if (end - start < 1) throw new Error(`${labelOf(piece, each.layer)} would end before it starts.`);
    }
    return attemptTimes(picked, places);
  };
  const setLanes = (values: edits.LaneValues, label: string) =>
    edits.setLanes(piece, wishesOf(piece, own, values), label);
  return (
    <Flex vertical gap={9} component="section" className="bar-panel">
      <small className="quiet">what is set here is set in all of them</small>
      <h2>{picked.length} bars</h2>
      <div className="pairs">
        <Changed
          label="starts"
          name="Starts, of the transition"
          values={picked.map((each) => each.start_ms - each.base_ms)}
          commit={async (change) =>
            move((each) => {
              const start = each.base_ms + change(each.start_ms - each.base_ms);
              return [start, start + each.end_ms - each.start_ms];
            })
          }
        />
        <Changed
          label="lasts"
          name="Lasts"
          values={picked.map((each) => each.end_ms - each.start_ms)}
          commit={async (change) =>
            move((each) => [each.start_ms, each.start_ms + change(each.end_ms - each.start_ms)])
          }
        />
      </div>
      <p className="quiet">+40, *0.5 or -10% change each from its own.</p>
      <LinkAll picked={own} />
      {own.length > 0 && (
        <TimingEditor
          key={own.map((each) => each.key).join()}
          timing={timingOf(piece, lastOf(own))}
          mixed={own.some((each) => !equal(timingOf(piece, each), timingOf(piece, lastOf(own))))}
          reading={undefined}
          commit={(timing) => make(setLanes({ timing }, `Timing of ${own.length} bars`))}
        />
      )}
    </Flex>
  );
}

interface ChangedProps {
  label: string;
  name: string;
  values: readonly number[];
  commit: (change: Change) => Promise<void>;
}

/** A number that all have, or nothing where they differ; typed as one for all, or as a change. */
function Changed({ label, name, values, commit }: ChangedProps) {
  const rounded = values.map(Math.round);
  const mixed = new Set(rounded).size > 1;
  return (
    <TypedField<Change>
      label={label}
      name={name}
      value={() => rounded[0] ?? 0}
      mixed={mixed}
      // A change is told by what it makes of two numbers.
      format={(change) => (change(0) === change(1) ? String(change(0)) : `${change(0)} and ${change(1)}`)}
      parse={parse}
      commit={commit}
    />
  );
}

/** All of them with another layer, or after it; or each from the start. */
function LinkAll({ picked }: { picked: readonly Bar[] }) {
  const piece = useBench((b) => b.document);
  const layers = new Set(picked.map((bar) => bar.layer));
  const circular = picked.map((bar) => edits.linkedOn(transitionNamed(piece, bar.transition), bar.layer));
  const others = edits.idsOf(piece).filter((id) => !layers.has(id) && !circular.some((each) => each.has(id)));
  const link = (value: string) => {
    const [edge, layer] = value.split(' ') as [edits.Anchor['edge'] | 'start', string?];
    const anchor = edge === 'start' || !layer ? null : { edge, layer };
    void attempt(
      edits.setLanes(piece, wishesOf(piece, picked, { anchor, delay_ms: 0 }), `Start of ${picked.length} bars`),
    );
  };
  return (
    <Select
      aria-label="Start of all"
      placeholder="all of them start…"
      value={null}
      options={[
        { value: 'start', label: 'from the start' },
        ...others.flatMap((id) => [
          { value: `with ${id}`, label: `with ${labelOf(piece, id)}` },
          { value: `after ${id}`, label: `after ${labelOf(piece, id)}` },
        ]),
      ]}
      onChange={link}
    />
  );
}

type Piece = Parameters<typeof edits.idsOf>[0];

/** One wish for each lane behind the bars. */
function wishesOf(piece: Piece, bars: readonly Bar[], values: edits.LaneValues) {
  const wishes = bars.map(({ transition, layer, property }) => {
    const lane = edits.laneOf(piece.transitions ?? [], transition, layer, property);
    return { transition, layer, property: lane?.property ?? null, values };
  });
  return wishes.filter(
    (wish, i) =>
      wishes.findIndex(
        (other) =>
          other.transition === wish.transition && other.layer === wish.layer && other.property === wish.property,
      ) === i,
  );
}

function timingOf(piece: Piece, { transition, layer, property }: Bar) {
  const lane = edits.laneOf(piece.transitions ?? [], transition, layer, property);
  return lane?.timing ?? transitionNamed(piece, transition).timing;
}
