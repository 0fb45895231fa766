import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Flex, notification } from 'antd';
import { useEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import { useLocation } from 'wouter';
import { Brand } from '../../shared/ui/Brand';
import { Chip } from '../../shared/ui/Chip';
import { Input } from '../../shared/ui/Input';
import { api } from '../../api/client';
import type { ShelfEntry } from '../../api/contract';
import { Clock } from '../player';
import { filterPieces, FILTERS, kindOf, type Filter } from './filter';
import './shelf.css';
import { ShelfCell } from './ShelfCell';
import { heldBy } from './held';
import { KINDS, openFiles, toldOf } from './files';
import { NewPiece } from './NewPiece';
import type { Beginning } from './NewPieceForm';
import { known } from '../../shared/known';

const NONE = 'The shelf is empty. Start with “New piece”.';
const NONE_FITS = 'No piece fits this search. Clear it to see them all.';

const NOTE = { padding: '40px 0', textAlign: 'center' } as const;

export function ShelfPage() {
  const { data, error, refetch } = useQuery({ queryKey: ['shelf'], queryFn: api.shelf });
  const [filter, setFilter] = useState<Filter>('all');
  const [wanted, setWanted] = useState('');
  const [playing, setPlaying] = useState(true);
  const clocks = useClocks(playing);
  const actions = useShelfActions();
  const file = useRef<HTMLInputElement>(null);
  const pieces = data ? filterPieces(data.pieces, filter, wanted) : [];

  return (
    <>
      {actions.notices}
      <Flex component="header" className="top" align="center" gap={12}>
        <Brand />
        <span className="crumb">Quay Nine</span>
        <span className="spring" />
        <Button
          href={api.collectionAddress}
          download="pieces.zip"
          title="All pieces as one zip, to keep or to open elsewhere"
        >
          Save all
        </Button>
        <Button onClick={() => setPlaying(!playing)}>{playing ? 'Pause all' : 'Play all'}</Button>
      </Flex>
      <Opening files={file} take={actions.take}>
        <Head pieces={data?.pieces} filter={filter} setFilter={setFilter} wanted={wanted} setWanted={setWanted}>
          <NewPiece pieces={data?.pieces ?? []} create={actions.create} open={() => known(file.current).click()} />
        </Head>
        {error && (
          <p role="alert" className="quiet" style={NOTE}>
            {error.message} <Button onClick={() => void refetch()}>Try again</Button>
          </p>
        )}
        {data && !pieces.length && (
          <p className="quiet" style={NOTE}>
            {data.pieces.length ? NONE_FITS : NONE}
          </p>
        )}
        <div className="shelf-grid">
          {pieces.map((entry) => (
            <ShelfCell
              key={entry.row}
              entry={entry}
              clock={clocks(entry.id)}
              holds={data ? heldBy(data, entry.id) : ''}
              usedBy={data?.uses.filter((use) => use.of === entry.id) ?? []}
              onDuplicate={actions.duplicate}
              onRemove={actions.remove}
              onChanged={() => void refetch()}
            />
          ))}
        </div>
      </Opening>
    </>
  );
}

interface OpeningProps {
  files: RefObject<HTMLInputElement | null>;
  take: (files: readonly File[]) => void;
  children: ReactNode;
}

/** Where files are dropped, or taken from those that are chosen. */
const Opening = ({ files, take, children }: OpeningProps) => (
  <main
    className="shelf"
    onDragOver={(event) => event.preventDefault()}
    onDrop={(event) => {
      event.preventDefault();
      take([...event.dataTransfer.files]);
    }}
  >
    <input
      ref={files}
      type="file"
      hidden
      multiple
      accept={KINDS}
      aria-label="Files to open"
      onChange={({ target }) => {
        take([...(target.files ?? [])]);
        // The same file may be chosen again.
        target.value = '';
      }}
    />
    {children}
  </main>
);

interface HeadProps extends FilterProps {
  pieces: readonly ShelfEntry[] | undefined;
  wanted: string;
  setWanted: (wanted: string) => void;
  children: ReactNode;
}

/** What there is, and what is looked for. */
function Head({ pieces, filter, setFilter, wanted, setWanted, children }: HeadProps) {
  return (
    <Flex align="center" gap={10} style={{ marginBottom: 14 }}>
      <div>
        <h1 style={{ margin: 0, fontSize: 22, lineHeight: 1.2 }}>Quay Nine</h1>
        {pieces && <Counts all={pieces} />}
      </div>
      <span className="spring" />
      <Filters filter={filter} setFilter={setFilter} />
      <Input
        style={{ width: 170 }}
        placeholder="Find a piece"
        aria-label="Find a piece"
        allowClear
        value={wanted}
        onChange={(e) => setWanted(e.target.value)}
      />
      {children}
    </Flex>
  );
}

function Counts({ all }: { all: readonly ShelfEntry[] }) {
  const loops = all.filter((entry) => kindOf(entry) === 'loops').length;
  return (
    <span className="quiet">
      {all.length} pieces, {loops} in loops · harbour-ferry app
    </span>
  );
}

interface FilterProps {
  filter: Filter;
  setFilter: (filter: Filter) => void;
}

function Filters({ filter, setFilter }: FilterProps) {
  return (
    <Flex gap={8} role="group" aria-label="Which pieces">
      {FILTERS.map((name) => (
        <Chip key={name} pressed={filter === name} onClick={() => setFilter(name)}>
          {name}
        </Chip>
      ))}
    </Flex>
  );
}

/** A clock for each piece, whenever it comes; all of them play, or none does. */
function useClocks(playing: boolean) {
  const [clocks] = useState(() => new Map<string, Clock>());
  useEffect(() => clocks.forEach((clock) => clock.setPlaying(playing)), [clocks, playing]);
  return (id: string): Clock => {
    let clock = clocks.get(id);
    if (!clock) {
      clock = new Clock();
      clock.playing = playing;
      clocks.set(id, clock);
    }
    return clock;
  };
}

function made(wish: Beginning) {
  if ('starter' in wish) return api.createFrom(wish.name, wish.starter);
  return 'copyOf' in wish ? api.duplicate(wish.copyOf, wish.name) : api.create(wish.name, wish.size);
}

function useShelfActions() {
  const queries = useQueryClient();
  const [, navigate] = useLocation();
  const [notices, noticesHere] = notification.useNotification();
  const refresh = () => queries.invalidateQueries({ queryKey: ['shelf'] });
  const onError = (error: Error) => notices.error({ title: error.message });
  const restore = useMutation({ mutationFn: api.restore, onSuccess: refresh, onError });
  const remove = useMutation({
    mutationFn: api.remove,
    onError,
    onSuccess: async ({ id }) => {
      await refresh();
      notices.open({
        key: id,
        title: 'Piece deleted',
        actions: (
          <Button
            onClick={() => {
              restore.mutate(id);
              notices.destroy(id);
            }}
          >
            Put it back
          </Button>
        ),
      });
    },
  });
  const duplicate = useMutation({ mutationFn: (id: string) => api.duplicate(id), onSuccess: refresh, onError });
  const take = useMutation({
    mutationFn: openFiles,
    // What came before a file that could not be read is there all the same.
    onSettled: refresh,
    onSuccess: (opened) => {
      const [only, another] = opened.added;
      if (only && !another && !opened.known) navigate(`/pieces/${only}`);
      else notices.info({ title: toldOf(opened) });
    },
    onError,
  });
  const add = useMutation({ mutationFn: made, onSuccess: ({ id }) => navigate(`/pieces/${id}`), onError });
  return {
    notices: noticesHere,
    create: (wish: Beginning) => add.mutate(wish),
    take: (files: readonly File[]) => files.length && take.mutate(files),
    duplicate: (id: string) => duplicate.mutate(id),
    remove: (id: string) => remove.mutate(id),
  };
}
