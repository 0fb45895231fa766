import { useDeferredValue } from 'react';
import type { Transition, TransitionReading } from '../../../api/contract';
import { Cut } from '../../../shared/ui/Cut';
import { NumberField } from '../../../shared/ui/Field';
import { make, useBench } from '../bench';
import { choose } from '../choosing';
import { setLane } from '../edits';
import { labelOf, propertyNamed } from '../tree';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** Who moves when inside a transition: a bar and a delay for each layer that moves. */
export function Lanes({ transition }: { transition: Transition }) {
  const reading = useDeferredValue(useBench((b) => b.readings[transition.id]));
  const length = Math.max(reading?.length_ms ?? 1, 1);
  const lanes = rowsOf(transition, reading?.moves ?? []);
  return (
    <section className="lanes" aria-label="Lanes">
      <h3>
        Lanes <span className="quiet mono">{reading?.length_ms ?? 0} ms in all</span>
      </h3>
      {!lanes.length && <p className="quiet">Nothing differs between these two states, so nothing moves.</p>}
      {lanes.map(({ layer, property, moves }) => (
        <LaneRow
          key={`${layer} ${property}`}
          transition={transition}
          layer={layer}
          property={property}
          moves={moves}
          length={length}
        />
      ))}
    </section>
  );
}

type Moves = TransitionReading['moves'];

/** One row for each layer that moves, and below it one for each property that moves by itself. */
function rowsOf(transition: Transition, moves: Moves): { layer: string; property: string | null; moves: Moves }[] {
  const alone = (layer: string, property: string) =>
    Boolean(transition.lanes?.some((lane) => lane.layer === layer && lane.property === property));
  return [...new Set(moves.map(([layer]) => layer))].flatMap((layer) => {
    const own = moves.filter((move) => move[0] === layer);
    const together = own.filter((move) => !alone(layer, move[1]));
    return [
      { layer, property: null, moves: together },
      ...own.filter((move) => alone(layer, move[1])).map((move) => ({ layer, property: move[1], moves: [move] })),
    ];
  });
}

function LaneRow({
  transition,
  layer,
  property,
  moves,
  length,
}: {
  transition: Transition;
  layer: string;
  property: string | null;
  moves: Moves;
  length: number;
}) {
  const piece = useBench((b) => b.document);
  const isChosen = useBench((b) => b.lane === layer && b.laneProperty === property);
  const lane = transition.lanes?.find((l) => l.layer === layer && (l.property ?? null) === property);
  const start = Math.min(...moves.map((m) => m[2]));
  const end = Math.max(...moves.map((m) => m[3]));
  const name = property ? propertyNamed(property).label : labelOf(piece, layer);
  return (
    <div className="lane">
      <PlainButton
        aria-pressed={isChosen}
        style={property ? { paddingLeft: 14 } : {}}
        title={lane?.timing ? 'Has a timing of its own' : 'Has the timing of the transition'}
        onClick={() => choose(isChosen ? { lane: null } : { lane: layer, laneProperty: property })}
      >
        <Cut name={name} />
      </PlainButton>
      <span className="lane-track">
        {moves.length > 0 && (
          <span
            className={lane?.timing ? 'own' : ''}
            style={{ left: `${(start / length) * 100}%`, width: `${((end - start) / length) * 100}%` }}
          />
        )}
      </span>
      <NumberField
        label=""
        name={property ? `Delay of ${name} of ${layer}` : `Delay of ${layer}`}
        step={10}
        value={lane?.delay_ms ?? 0}
        commit={(delay_ms) => make(setLane(useBench.getState().document, transition.id, layer, { delay_ms }, property))}
      />
      <span className="mono quiet" style={{ fontSize: 11 }}>
        {moves.length > 0 ? `+${end - start}` : '—'}
      </span>
    </div>
  );
}
