import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, notification, Popover, type InputRef } from 'antd';
// The plain one: the others of its folder are not loaded with it.
import Input from 'antd/es/input/Input';
import { useEffect, useRef, useState } from 'react';
import { useLocation } from 'wouter';
import { api } from '../../api/client';
import type { ShelfEntry } from '../../api/contract';
import mark from '../../app/mark.svg';
import { Clock } from '../player';
import { filterPieces, FILTERS, kindOf, type Filter } from './filter';
import './shelf.css';
import { ShelfCell } from './ShelfCell';

const NONE = 'The shelf is empty. Start with “New piece”.';
const NONE_FITS = 'No piece fits this search. Clear it to see them all.';

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
      <header className="top">
        <a className="brand" href="/">
          <img src={mark} alt="" /> Keen Ripple
        </a>
        <span className="crumb">Quay Nine</span>
        <span className="spring" />
        <Button onClick={() => setPlaying(!playing)}>{playing ? 'Pause all' : 'Play all'}</Button>
      </header>
      <main className="shelf">
        <div className="shelf-head">
          <div>
            <h1>Quay Nine</h1>
            {data && <Counts all={data.pieces} />}
          </div>
          <span className="spring" />
          <Filters filter={filter} setFilter={setFilter} />
          <Input
            className="find"
            placeholder="Find a piece"
            aria-label="Find a piece"
            allowClear
            value={wanted}
            onChange={(e) => setWanted(e.target.value)}
          />
          <NewPiece create={actions.create} />
        </div>
        {error && (
          <p role="alert" className="shelf-note">
            {error.message} <Button onClick={() => void refetch()}>Try again</Button>
          </p>
        )}
        {data && !pieces.length && <p className="shelf-note">{data.pieces.length ? NONE_FITS : NONE}</p>}
        <div className="shelf-grid">
          {pieces.map((entry) => (
            <ShelfCell
              key={entry.row}
              entry={entry}
              clock={clocks(entry.id)}
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

function Counts({ all }: { all: readonly ShelfEntry[] }) {
  const loops = all.filter((entry) => kindOf(entry) === 'loops').length;
  return (
    <p className="quiet">
      {all.length} pieces, {loops} in loops · harbour-ferry app
    </p>
  );
}

function Filters({ filter, setFilter }: { filter: Filter; setFilter: (filter: Filter) => void }) {
  return (
    <div role="group" aria-label="Which pieces" className="filters">
      {FILTERS.map((name) => (
        <button key={name} aria-pressed={filter === name} onClick={() => setFilter(name)}>
          {name}
        </button>
      ))}
    </div>
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
  const add = useMutation({ mutationFn: api.create, onSuccess: ({ id }) => navigate(`/pieces/${id}`), onError });
  return {
    notices: noticesHere,
    create: (name: string) => add.mutate(name),
    duplicate: (id: string) => duplicate.mutate(id),
    remove: (id: string) => remove.mutate(id),
  };
}

function NewPiece({ create }: { create: (name: string) => void }) {
  // Once the panel is there: before, nothing in it takes the focus.
  const field = useRef<InputRef>(null);
  const [name, setName] = useState('');
  const form = (
    <form
      className="new-piece"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) create(name.trim());
      }}
    >
      <Input
        ref={field}
        placeholder="What is it called?"
        aria-label="Name"
        maxLength={120}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <Button type="primary" htmlType="submit" disabled={!name.trim()}>
        Make it
      </Button>
    </form>
  );
  return (
    <Popover
      trigger="click"
      placement="bottomRight"
      content={form}
      destroyOnHidden
      afterOpenChange={(open) => open && field.current?.focus()}
    >
      <Button type="primary">New piece</Button>
    </Popover>
  );
}
