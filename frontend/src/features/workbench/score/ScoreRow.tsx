import { memo } from 'react';
import type { Value } from '../../../api/answers';
import { choose, useBench } from '../bench';
import type { Row } from '../tree';
import type { Column } from './columns';
import { ScoreCell } from './ScoreCell';

interface Props {
  row: Row;
  index: number;
  /** The first row of its layer carries the name. */
  first: boolean;
  columns: readonly Column[];
}

export const ScoreRow = memo(function ScoreRow({ row: { layer, property }, index, first, columns }: Props) {
  const chosen = useBench((b) => b.layer === layer.id);
  return (
    <tr aria-rowindex={index + 3} className={`${first ? 'first' : ''} ${chosen ? 'chosen' : ''}`} data-score-row={`${layer.id}/${property.name}`}>
      <th scope="row" onClick={() => choose({ layer: layer.id })}>
        <span>{first ? layer.name : ''}</span>
        <span className="quiet">{property.label}</span>
      </th>
      {columns.map((column, at) =>
        column.kind === 'state' ? (
          <StateCell key={column.id} column={at} row={index} layer={layer.id} property={property.name} state={column.id} />
        ) : column.kind === 'way' ? (
          <WayCell key={column.id} layer={layer.id} property={property.name} transition={column.id} />
        ) : (
          <td key={column.id} />
        ),
      )}
    </tr>
  );
});

interface StateCellProps {
  column: number;
  row: number;
  layer: string;
  property: string;
  state: string;
}

/** Takes from the bench only what this cell shows, so that an edit draws anew only the cells it changed. */
function StateCell({ layer, property, state, row, column }: StateCellProps) {
  const value = useBench((b) => b.poses[state]?.[layer]?.[property]);
  const own = useBench((b) => ownValue(b.document!.states.find((s) => s.id === state)?.changes?.[layer], property));
  const same = useBench((b) => {
    const index = b.document!.states.findIndex((s) => s.id === state);
    const before = b.document!.states[index - 1];
    return before !== undefined && b.poses[before.id]?.[layer]?.[property] === value;
  });
  const posed = useBench((b) => b.state === state);
  if (value === undefined) return <td />;
  return <ScoreCell layer={layer} property={property} state={state} value={value} own={own} same={same} posed={posed} row={row} column={column} />;
}

const ownValue = (look: object | undefined, property: string): boolean => look !== undefined && (look as Record<string, Value>)[property] !== undefined;

/** When the property moves inside the transition. */
function WayCell({ layer, property, transition }: { layer: string; property: string; transition: string }) {
  const reading = useBench((b) => b.readings[transition]);
  const chosen = useBench((b) => b.transition === transition);
  const move = reading?.moves.find((m) => m[0] === layer && m[1] === property);
  const length = Math.max(reading?.length_ms ?? 1, 1);
  return (
    <td className={`way${chosen ? ' chosen' : ''}`} onClick={() => choose({ transition, lane: null })} title={move ? `${move[2]} to ${move[3]} ms` : undefined}>
      {move && move[3] > move[2] ? (
        <span className="bar" style={{ left: `${8 + (move[2] / length) * 84}%`, width: `${Math.max(((move[3] - move[2]) / length) * 84, 2)}%` }} />
      ) : move ? (
        <span className="cut-mark" />
      ) : (
        <span className="still" />
      )}
    </td>
  );
}
