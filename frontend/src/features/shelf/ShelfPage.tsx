import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Flex, notification } from 'antd';
import { useEffect, useState, type ReactNode } from 'react';
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
import { NewPiece } from './NewPiece';
import { SCREENS, type Screen, type Size } from './screens';

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
  const pieces = data ? filterPieces(data.pieces, filter, wanted) : [];

  return (
    <>
      {actions.notices}
      <Flex component="header" className="top" align="center" gap={12}>
        <Brand />
        <span className="crumb">Quay Nine</span>
        <span className="spring" />
        <Button onClick={() => setPlaying(!playing)}>{playing ? 'Pause all' : 'Play all'}</Button>
      </Flex>
      <main className="shelf">
        <Head pieces={data?.pieces} filter={filter} setFilter={setFilter} wanted={wanted} setWanted={setWanted}>
          <NewPiece create={actions.create} take={actions.take} />
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
      </main>
    </>
  );
}

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
  const duplicate = useMutation({ mutationFn: api.duplicate, onSuccess: refresh, onError });
  const take = useMutation({ mutationFn: readBack, onSuccess: ({ id }) => navigate(`/pieces/${id}`), onError });
  const add = useMutation({
    mutationFn: ({ name, ...size }: { name: string } & Size) => api.create(name, size),
    onSuccess: ({ id }) => navigate(`/pieces/${id}`),
    onError,
  });
  return {
    notices: noticesHere,
    create: (name: string, screen: Screen) => add.mutate({ name, ...SCREENS[screen] }),
    take: (file: File) => take.mutate(file),
    duplicate: (id: string) => duplicate.mutate(id),
    remove: (id: string) => remove.mutate(id),
  };
}

/** A piece from a file that was downloaded before, with all that stands in it. */
async function readBack(file: File) {
  const text = await file.text();
  try {
    return await api.addDocument(JSON.parse(text) as Record<string, unknown>);
  } catch (error) {
    if (error instanceof SyntaxError)
      throw new Error(`${file.name} is no piece: it is not JSON. Choose a file that “The piece itself” has given.`, {
        cause: error,
      });
    throw error;
  }
}
