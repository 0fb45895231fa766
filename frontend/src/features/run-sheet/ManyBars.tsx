import { Flex, Select } from 'antd';
import equal from 'fast-deep-equal';
import { ChangeField } from '../../shared/ui/Field';
import { attempt, edits, labelOf, make, TimingEditor, transitionNamed, useBench } from '../workbench';
import { attemptTimes } from './barEdits';
import { laneOfBar, type Bar } from './model';
import { roomOf, type Place } from './places';
import { lastOf } from '../../shared/known';

/** Several bars: what is set here is set in all of them, or changes each from its own. */
export function ManyBars({ picked }: { picked: readonly Bar[] }) {
  const piece = useBench((b) => b.document);
  const own = picked.filter((each) => !laneOfBar(each).ofCopy);
  const move = (placeOf: (bar: Bar) => Place) => {
    const places = new Map(picked.map((each) => [each.key, placeOf(each)]));
    refuseWhatDoesNotFit(piece, picked, places);
    return attemptTimes(picked, places);
  };
  return (
    <Flex vertical gap={9} component="section" className="bar-panel">
      <small className="quiet">what is set here is set in all of them</small>
      <h2>{picked.length} bars</h2>
      <div className="pairs">
        <ChangeField
          countsDown
          unit="ms"
          label="starts"
          name="Starts, of the transition"
          values={picked.map((each) => Math.round(each.start_ms - each.base_ms))}
          commit={async (change) =>
            move((each) => {
              const start = each.base_ms + change(each.start_ms - each.base_ms);
              return [start, start + each.end_ms - each.start_ms];
            })
          }
        />
        <ChangeField
          countsDown
          unit="ms"
          label="lasts"
          name="Lasts"
          values={picked.map((each) => Math.round(each.end_ms - each.start_ms))}
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
          commit={(timing) =>
            make(edits.setLanes(piece, wishesOf(piece, own, { timing }), `Timing of ${own.length} bars`))
          }
        />
      )}
    </Flex>
  );
}

/** Throws for the first that would begin before it can, or end before it starts. */
function refuseWhatDoesNotFit(piece: Piece, picked: readonly Bar[], places: ReadonlyMap<string, Place>): void {
  for (const each of picked) {
    const [start, end] = places.get(each.key) as Place;
    const least = roomOf(piece.transitions ?? [], [each]).least;
    if (start < each.start_ms + least - 0.5)
      throw new Error(
        `${labelOf(piece, each.layer)} would start before ${Math.round(each.start_ms + least - each.base_ms)} ms.`,
      );
    if (end - start < 1) throw new Error(`${labelOf(piece, each.layer)} would end before it starts.`);
  }
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
