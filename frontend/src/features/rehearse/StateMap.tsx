import type { Piece } from '../../api/contract';
import { area, line } from '../../shared/drawing/paint';
import { cueLabel } from '../workbench';

const [WIDTH, NODE, ROW, LEFT] = [190, 26, 58, 45];
/** How far the arc of a transition leads outwards, by the states between. */
const reach = (rows: number) => 18 + 9 * Math.min(rows, 4);

interface Props {
  piece: Piece;
  /** On stage, or on the way there. */
  state: string;
  /** The transition that was set off last. */
  last: string | null;
}

/** The states one below the other, onwards on the left and back on the right; the one on stage is lit. */
export function StateMap({ piece, state, last }: Props) {
  const { states, transitions = [] } = piece;
  const row = new Map(states.map(({ id }, index) => [id, index]));
  const right = WIDTH - LEFT;
  return (
    <svg
      className="state-map"
      width={WIDTH}
      height={states.length * ROW - (ROW - NODE) + 8}
      role="img"
      aria-label={`States; ${states.find(({ id }) => id === state)?.name ?? ''} is on stage`}
    >
      {transitions.map((transition) => {
        const [a, b] = [row.get(transition.from) ?? 0, row.get(transition.to) ?? 0];
        const onwards = b > a;
        const [x, out] = onwards ? [LEFT, -reach(b - a - 1)] : [right, reach(a - b - 1)];
        const [from, to] = [4 + a * ROW + NODE / 2 + 5, 4 + b * ROW + NODE / 2 - (onwards ? 5 : -5)];
        const lit = transition.id === last;
        const ink = lit ? 'coral' : 'glass';
        const tip = onwards ? -6 : 6;
        return (
          <g key={transition.id}>
            <title>{`${cueLabel(transition.cue ?? 'hold', transition.cue_key)}: ${transition.id}`}</title>
            <path
              {...line(ink, lit ? 2 : 1.3)}
              d={`M${x} ${from}C${x + out} ${from} ${x + out} ${to} ${x + tip} ${to}`}
            />
            <path {...area(ink)} d={`M${x} ${to}l${tip} -3.5v7z`} />
          </g>
        );
      })}
      {states.map(({ id, name }, index) => (
        <g key={id} transform={`translate(${LEFT} ${4 + index * ROW})`} aria-current={id === state || undefined}>
          <rect
            {...area(id === state ? 'ink' : 'glass-wash', id === state ? 'ink' : 'hairline')}
            width={right - LEFT}
            height={NODE}
          />
          <text
            {...area(id === state ? 'panel' : 'ink')}
            x={(right - LEFT) / 2}
            y={NODE / 2 + 4}
            textAnchor="middle"
            fontSize="12"
          >
            {name.length > 14 ? `${name.slice(0, 13)}…` : name}
          </text>
        </g>
      ))}
    </svg>
  );
}
