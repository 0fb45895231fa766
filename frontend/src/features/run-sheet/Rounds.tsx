import { Flex } from 'antd';
import type { Run } from '../../api/contract';
import { area, line } from '../../shared/drawing/paint';
import { known } from '../../shared/known';
import { PlainButton } from '../../shared/ui/PlainButton';
import {
  choose,
  propertyNamed,
  roundsOf,
  stateNamed,
  undercurrentsOf,
  useBench,
  type Round,
  type Undercurrent,
} from '../workbench';
import { ROW_H } from './rowHeight';
import { keysOf, turnsOf } from './rounds';
import type { Scale } from './Sheet';

/** A line for each property that goes round on its own, period by period. */
export function Rounds({ run, scale }: { run: Run; scale: Scale }) {
  const piece = useBench((b) => b.document);
  const all = undercurrentsOf(piece).filter(({ section }) => !section);
  if (!all.length) return null;
  return (
    <ul className="voices bare-list" aria-label="Undercurrents">
      {all.flatMap((own) =>
        roundsOf(own).map((round) => (
          <RoundLine key={`${own.id} ${round.at[0]}`} own={own} round={round} run={run} scale={scale} />
        )),
      )}
    </ul>
  );
}

function RoundLine({ own, round, run, scale }: { own: Undercurrent; round: Round; run: Run; scale: Scale }) {
  const chosen = useBench((b) => b.undercurrent === own.id);
  const piece = useBench((b) => b.document);
  const course = known(own.courses[known(round.at[0])]);
  const turns = turnsOf(own, course, run);
  const label = propertyNamed(round.property).label;
  const where = own.states ? ` in ${own.states.map((id) => stateNamed(piece, id).name).join(', ')}` : '';
  return (
    <Flex component="li">
      <span className="voice-name">
        <PlainButton
          className="ellipsis"
          aria-pressed={chosen}
          title={`${own.name}: set its period and keys`}
          onClick={() => choose({ undercurrent: own.id })}
        >
          {own.name}
        </PlainButton>
        <span className="quiet">{label}</span>
      </span>
      <svg
        width={scale.width + 26}
        height={ROW_H}
        role="img"
        aria-label={`${own.name}, ${label}, goes round every ${own.period_ms} ms${where}`}
        style={{ cursor: 'pointer' }}
        onClick={() => choose({ undercurrent: own.id })}
      >
        <line {...line('grid')} x1={0} x2={scale.width + 26} y1={ROW_H - 0.5} y2={ROW_H - 0.5} />
        {turns.map(({ start_ms, end_ms }) => (
          <path key={start_ms} {...line(chosen ? 'ink' : 'glass', 1.6)} d={wave(scale.x(start_ms), scale.x(end_ms))} />
        ))}
        {keysOf(own, course, turns).map((ms) => (
          <path key={ms} {...area('brass')} d={`M${scale.x(ms)} 10l3.5 3.5l-3.5 3.5l-3.5 -3.5z`} />
        ))}
      </svg>
    </Flex>
  );
}

/** px: a turn from its beginning to its end. */
const wave = (from: number, to: number) => `M${from} 8v11M${from} 13.5H${to}`;
