import { useQuery } from '@tanstack/react-query';
import { Flex, Popover } from 'antd';
import { useEffect, useMemo } from 'react';
import { Link } from 'wouter';
import type { Run, ShelfEntry, Use, WholeAnswer } from '../../api/contract';
import { api, ApiFault } from '../../api/client';
import { LoopView, pictureOf, Ring, RunBar, seconds, updateTape, waysRun, type Clock } from '../player';
import { DamagedCell } from './DamagedCell';
import { kindOf } from './filter';
import { useSeen } from './useSeen';
import { known } from '../../shared/known';
import { PlainButton } from '../../shared/ui/PlainButton';

const STAGE = { width: 230, height: 168 };

interface Props {
  entry: ShelfEntry;
  clock: Clock;
  onDuplicate: (id: string) => void;
  onRemove: (id: string) => void;
  /** Another text whenever a piece that stands in it has changed. */
  holds: string;
  /** Where it stands in others: their names. */
  usedBy: readonly Use[];
  onChanged: () => void;
}

/** A piece; no more than its name until it comes into view, so that a thousand of them open at once. */
export function ShelfCell(props: Props) {
  const [place, isSeen] = useSeen();
  const { entry } = props;
  return (
    <div ref={place} className="shelf-place">
      {isSeen ? (
        <SeenCell {...props} />
      ) : (
        <Link className="ellipsis" href={`/pieces/${entry.id}`}>
          {entry.name}
        </Link>
      )}
    </div>
  );
}

function SeenCell({ entry, clock, holds, usedBy, onDuplicate, onRemove, onChanged }: Props) {
  const asked = useQuery({
    queryKey: ['piece', entry.id, entry.revision, holds],
    queryFn: () => api.piece(entry.id),
    enabled: entry.fault === null,
    staleTime: Infinity,
    retry: (count, error) => count < 2 && !(error instanceof ApiFault && error.status >= 400),
  });
  const fault = entry.fault ?? (asked.error && !asked.data ? asked.error.message : null);
  if (fault) return <DamagedCell entry={entry} fault={fault} onChanged={onChanged} />;
  const actions = (
    <Flex vertical gap={2} className="shelf-actions" style={{ minWidth: 110 }}>
      <PlainButton onClick={() => onDuplicate(entry.id)}>Duplicate</PlainButton>
      <PlainButton onClick={() => onRemove(entry.id)}>Delete</PlainButton>
    </Flex>
  );
  return (
    <Flex vertical component="article" className="shelf-cell" data-shelf={entry.id}>
      <div className="shelf-stage">
        {asked.data && <Playing piece={asked.data} clock={clock} />}
        {/* Over the loop and not round it: browsers find styles inside of links twice, visited and not. */}
        <Link className="overlay" href={`/pieces/${entry.id}`} aria-label={`Open ${entry.name}`} />
      </div>
      <Flex component="footer" align="center" gap={12}>
        {asked.data && <RunOf piece={asked.data} clock={clock} />}
        <Flex vertical className="shelf-name">
          <Link className="ellipsis" href={`/pieces/${entry.id}`}>
            {entry.name}
          </Link>
          <RunText entry={entry} />
          {usedBy.length > 0 && <UsedBy uses={usedBy} />}
        </Flex>
        <Popover trigger="click" placement="bottomRight" content={actions} destroyOnHidden>
          <PlainButton style={{ letterSpacing: 1 }} aria-label={`More for ${entry.name}`}>
            ···
          </PlainButton>
        </Popover>
      </Flex>
    </Flex>
  );
}

/** The run; of what waits for somebody, its transitions one after the other. */
function shownOf({ document: { transitions }, transitions: readings, run }: WholeAnswer): Run {
  return run.total_ms || !transitions?.length ? run : waysRun(transitions, readings, run.undercurrents);
}

function Playing({ piece, clock }: { piece: WholeAnswer; clock: Clock }) {
  const { document } = piece;
  const run = useMemo(() => shownOf(piece), [piece]);
  const tape = useMemo(() => updateTape(new Map(), piece.transitions, Object.keys(piece.transitions)), [piece]);
  useEffect(() => clock.setRun(run), [clock, run]);
  const zoom = Math.min(STAGE.width / document.width, STAGE.height / document.height, 1);
  const picture = useMemo(() => pictureOf(piece.document, piece.layers), [piece]);
  return <LoopView piece={picture} poses={piece.poses} run={run} tape={tape} clock={clock} zoom={zoom} />;
}

function RunOf({ piece, clock }: { piece: WholeAnswer; clock: Clock }) {
  const { run, document } = piece;
  if (run.loop_ms !== null) return <Ring run={run} clock={clock} size={44} name={document.name} />;
  return run.total_ms ? <RunBar run={run} clock={clock} width={76} name={document.name} /> : null;
}

/** Which pieces hold it. */
function UsedBy({ uses }: { uses: readonly Use[] }) {
  const names = uses.map((use) => `${use.name} × ${use.count}`).join(', ');
  return (
    <span className="quiet ellipsis" title={`Used by ${names}`}>
      in {names}
    </span>
  );
}

function RunText({ entry }: { entry: ShelfEntry }) {
  const kind = kindOf(entry);
  if (kind === 'on a cue') return <span className="quiet">waits for somebody to act</span>;
  return (
    <span className="quiet">
      {kind && <span className="mono">{seconds(entry.loop_ms ?? known(entry.total_ms))} s </span>}
      {kind === 'loops' ? 'loop' : kind}
    </span>
  );
}
