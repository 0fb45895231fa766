import type { PointerEvent } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import { pulling } from '../../../shared/ui/pulling';
import { useHeld } from '../../../shared/ui/useHeld';
import { attempt, useBench } from '../bench';
import { chooseWays } from '../choosing';
import { setTransition } from '../edits';
import { stateNamed, transitionNamed } from '../tree';
import { archesOf, seamText, type Arch, type Column } from './columns';

const FOOT = 36;

/** What leads where; the arch that closes the loop carries the seam. */
export function Arches({ columns, width }: { columns: readonly Column[]; width: number }) {
  const piece = useBench((b) => b.document);
  const run = useBench((b) => b.run);
  const seam = useBench((b) => b.seam);
  const chosen = useBench((b) => b.transition);
  const { shown, hands } = useArchPull(columns);
  const arches = archesOf(piece, columns, run).map((arch) => (arch.id === shown?.id ? { ...arch, ...shown } : arch));
  const closing = arches.find((arch) => arch.closing);
  return (
    <svg style={{ display: 'block' }} width={width} height={FOOT + 2} aria-hidden="true">
      {arches.map((arch) => (
        <g key={arch.id} className="arch" onClick={() => chooseWays([arch.id])}>
          <path d={archPath(arch)} fill="none" stroke="transparent" strokeWidth={9} />
          <path d={archPath(arch)} {...paintOf(arch, chosen === arch.id)} />
        </g>
      ))}
      {arches.map((arch) => (
        <path key={arch.id} {...line('ink', 1.2)} d={`M${arch.to - 3} ${FOOT - 5}l3 5l3 -5`} />
      ))}
      {arches
        .filter(({ id }) => id === chosen)
        .flatMap(({ id, from, to }) =>
          (['from', 'to'] as const).map((end) => (
            <circle
              key={end}
              className="arch-end"
              data-arch-end={end}
              {...area('panel', 'ink', 1.6)}
              cx={end === 'from' ? from : to}
              cy={FOOT - 6}
              r={4.5}
              {...hands(id, end)}
            >
              <title>
                {end === 'from' ? 'Pull it to the state that it leads from' : 'Pull it to the state that it leads to'}
              </title>
            </circle>
          )),
        )}
      {closing && seam && (
        <text
          x={(closing.from + closing.to) / 2}
          y={9}
          className="halo"
          textAnchor="middle"
          style={{ font: '500 11px var(--mono)' }}
          fill={`var(--${seam.open ? 'coral-text' : 'glass'})`}
        >
          {seamText(seam)}
        </text>
      )}
    </svg>
  );
}

interface Pulled {
  id: string;
  end: 'from' | 'to';
  state: string;
  /** px of that end */
  at: number;
}

/** An end of a transition in the hand: it snaps to states, and leads there once it is let go. */
function useArchPull(columns: readonly Column[]) {
  const { shown, held, hold } = useHeld<Pulled>();
  const states = columns.filter(({ kind }) => kind === 'state');
  const move = (event: PointerEvent<SVGCircleElement>) => {
    const now = held();
    const left = event.currentTarget.ownerSVGElement?.getBoundingClientRect().left;
    if (!now || left === undefined) return;
    const away = ({ x, width }: Column) => Math.abs(event.clientX - left - x - width / 2);
    const other = transitionNamed(useBench.getState().document, now.id)[now.end === 'from' ? 'to' : 'from'];
    const near = states.filter(({ id }) => id !== other).toSorted((a, b) => away(a) - away(b))[0];
    if (near) hold({ ...now, state: near.id, at: near.x + near.width / 2 });
  };
  const release = () => {
    const now = held();
    if (!now) return;
    const { document: piece } = useBench.getState();
    const label = `Lead ${now.end} ${stateNamed(piece, now.state).name}`;
    if (transitionNamed(piece, now.id)[now.end] === now.state) return hold(null);
    void attempt(setTransition(piece, now.id, label, { [now.end]: now.state })).finally(() => hold(null));
  };
  const hands = (id: string, end: Pulled['end']) =>
    pulling<SVGCircleElement>({
      press: ({ currentTarget }) => {
        const state = transitionNamed(useBench.getState().document, id)[end];
        hold({ id, end, state, at: Number(currentTarget.getAttribute('cx')) });
      },
      move,
      release,
      giveUp: () => hold(null),
    });
  return { shown: shown && { id: shown.id, [shown.end]: shown.at }, hands };
}

/** Dotted on a cue, dashed where it closes the loop. */
function paintOf({ closing, cue }: Arch, chosen: boolean) {
  const dashes = closing ? '4 3' : cue === 'tap' ? '1.5 3' : undefined;
  return line(chosen ? 'ink' : closing ? 'coral' : 'glass', chosen ? 2 : 1.4, dashes);
}

function archPath({ from, to, closing }: Arch): string {
  // The label of the seam lies above its arch.
  const lift = closing ? 14 : Math.abs(to - from) > 150 ? 17 : 22;
  const lean = Math.min(Math.abs(to - from) / 2, 36) * Math.sign(to - from);
  return `M${from} ${FOOT}C${from} ${lift + 4} ${from + lean / 3} ${lift} ${from + lean} ${lift}L${to - lean} ${lift}C${to - lean / 3} ${lift} ${to} ${lift + 4} ${to} ${FOOT}`;
}
