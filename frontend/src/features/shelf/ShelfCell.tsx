import { Dropdown } from 'antd';
import { useEffect, useMemo } from 'react';
import { Link } from 'react-router';
import type { WholeAnswer } from '../../api/answers';
import { LoopView, Ring, RunBar, seconds, updateTape, type Clock } from '../player';
import { kindOf } from './filter';

const STAGE = { width: 230, height: 168 };

interface Props {
  piece: WholeAnswer;
  clock: Clock;
  onDuplicate: (id: string) => void;
  onRemove: (id: string) => void;
}

export function ShelfCell({ piece, clock, onDuplicate, onRemove }: Props) {
  const { document, run } = piece;
  const tape = useMemo(() => updateTape(new Map(), piece.transitions, Object.keys(piece.transitions)), [piece]);
  useEffect(() => clock.setRun(run), [clock, run]);
  const zoom = Math.min(STAGE.width / document.width, STAGE.height / document.height, 1);
  const kind = kindOf(piece);
  const actions = [
    { key: 'copy', label: 'Duplicate', onClick: () => onDuplicate(piece.id) },
    { key: 'remove', label: 'Delete', onClick: () => onRemove(piece.id) },
  ];
  return (
    <article className="shelf-cell" data-shelf={piece.id}>
      <div className="shelf-stage">
        <LoopView piece={document} poses={piece.poses} run={run} tape={tape} clock={clock} zoom={zoom} />
        {/* Over the loop and not round it: browsers find styles inside of links twice, visited and not. */}
        <Link to={`/pieces/${piece.id}`} aria-label={`Open ${document.name}`} />
      </div>
      <footer>
        {kind === 'loops' ? <Ring run={run} clock={clock} size={44} name={document.name} /> : <RunBar run={run} clock={clock} width={76} name={document.name} />}
        <div className="shelf-name">
          <Link to={`/pieces/${piece.id}`}>{document.name}</Link>
          <span className="quiet">
            {kind !== 'on a cue' && <span className="mono">{seconds(run.loop_ms ?? run.total_ms)} s </span>}
            {kind === 'loops' ? 'loop' : kind}
          </span>
        </div>
        <Dropdown menu={{ items: actions }} trigger={['click']}>
          <button className="plain more" aria-label={`More for ${document.name}`}>
            ···
          </button>
        </Dropdown>
      </footer>
    </article>
  );
}
