import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Flex, Popover } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'wouter';
import type { Parameter, Run, ShelfEntry, Trait, Use, WholeAnswer } from '../../api/contract';
import { api, ApiFault } from '../../api/client';
import { LoopView, pictureOf, Ring, RunBar, seconds, updateTape, waysRun, type Clock } from '../player';
import { DamagedCell } from './DamagedCell';
import { kindOf } from './filter';
import { useSeen } from './useSeen';
import { known } from '../../shared/known';
import { Chip } from '../../shared/ui/Chip';
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
  const [shows, setShows] = useState<Record<string, string>>({});
  const asOptions = Object.entries(shows).map(([trait, option]) => `${trait}:${option}`);
  const asked = useQuery({
    queryKey: ['piece', entry.id, entry.revision, holds, asOptions.join()],
    queryFn: () => api.piece(entry.id, asOptions.join()),
    placeholderData: keepPreviousData,
    enabled: entry.fault === null,
    staleTime: Infinity,
    retry: (count, error) => count < 2 && !(error instanceof ApiFault && error.status >= 400),
  });
  const fault = entry.fault ?? (asked.error && !asked.data ? asked.error.message : null);
  if (fault) return <DamagedCell entry={entry} fault={fault} onChanged={onChanged} />;
  const actions = (
    <Flex vertical gap={2} className="shelf-actions" style={{ minWidth: 110 }}>
      <PlainButton onClick={() => onDuplicate(entry.id)}>Duplicate</PlainButton>
      <a href={api.pieceAddress(entry.id)} download={`${entry.id}.json`}>
        Save as a file
      </a>
      <PlainButton onClick={() => onRemove(entry.id)}>Delete</PlainButton>
    </Flex>
  );
  return (
    <Flex vertical component="article" className="shelf-cell" data-shelf={entry.id}>
      <div className="shelf-stage">
        {asked.data && <Playing piece={asked.data} clock={clock} />}
        {/* Over the loop and not round it: browsers find styles inside of links twice, visited and not. */}
        {asked.data && (
          <Kinds
            traits={asked.data.document.traits ?? []}
            show={(trait, option) => setShows({ ...shows, [trait]: option })}
          />
        )}
        <Link className="overlay" href={`/pieces/${entry.id}`} aria-label={`Open ${entry.name}`} />
      </div>
      <Flex component="footer" align="center" gap={12}>
        {asked.data && <RunOf piece={asked.data} clock={clock} />}
        <Flex vertical className="shelf-name">
          <Link className="ellipsis" href={`/pieces/${entry.id}`}>
            {entry.name}
          </Link>
          <RunText entry={entry} />
          <Elsewhere uses={usedBy} parameters={asked.data?.document.parameters ?? []} />
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

/** The kinds in which it comes: each is played by one press, and nothing is changed. */
function Kinds({ traits, show }: { traits: readonly Trait[]; show: (trait: string, option: string) => void }) {
  if (!traits.length) return null;
  return (
    <Flex wrap gap={4} className="shelf-kinds">
      {traits.map((trait) => (
        <Flex key={trait.id} gap={2} role="group" aria-label={`Option of ${trait.name}`}>
          {trait.options.map(({ id, name }) => (
            <Chip key={id} pressed={id === (trait.shows ?? trait.options[0]?.id)} onClick={() => show(trait.id, id)}>
              {name}
            </Chip>
          ))}
        </Flex>
      ))}
    </Flex>
  );
}

/** Which pieces hold it, and what they may set of it. */
function Elsewhere({ uses, parameters }: { uses: readonly Use[]; parameters: readonly Parameter[] }) {
  const held = uses.map((use) => `${use.name} × ${use.count}`).join(', ');
  const sets = parameters.map(({ name }) => name).join(', ');
  if (!held && !sets) return null;
  const title = [held && `Used by ${held}`, sets && `Copies may set ${sets}`].filter(Boolean).join('. ');
  return (
    <span className="quiet ellipsis" title={title}>
      {[held && `in ${held}`, sets && `sets ${sets}`].filter(Boolean).join(' · ')}
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
