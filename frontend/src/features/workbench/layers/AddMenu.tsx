import { useQuery } from '@tanstack/react-query';
import { Dropdown } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { add } from '../actions';
import { MEDIA_FILES, takeFile } from '../artwork';
import { api } from '../../../api/client';
import type { Layer, ShelfEntry } from '../../../api/contract';
import { useBench } from '../bench';
import type { Drawn } from '../edits';
import { stage } from '../stageHands';
import { holdersOf, place } from '../placements';
import { look } from '../view';
import { KindIcon } from './icons';
import { known } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';

const KINDS: Drawn[] = ['rectangle', 'ellipse', 'text', 'group'];
/** The keys go into the menu, not into the page. */
const KEYS_INSIDE = { autoFocus: true };

// The menu gives its room to what is around the drawing.
const iconOf = (kind: Layer['kind']) => (
  <span style={{ display: 'inline-flex' }}>
    <KindIcon kind={kind} />
  </span>
);

/** The other pieces of the shelf that do not hold this one, asked for when the menu opens. */
function usePlaceable(open: boolean): readonly ShelfEntry[] {
  const id = useBench((b) => b.id);
  const { data } = useQuery({ queryKey: ['shelf'], queryFn: api.shelf, enabled: open });
  if (!data) return [];
  const holders = holdersOf(data, id);
  return data.pieces.filter((entry) => entry.fault === null && !holders.has(entry.id));
}

/** What can be added: shapes, what is drawn by hand, and files. */
export function AddMenu() {
  const [open, setOpen] = useState(false);
  const placeable = usePlaceable(open);
  const file = useRef<HTMLInputElement>(null);
  useEffect(() => void (stage.addMenu = () => setOpen(true)), []);
  const take = async (input: HTMLInputElement) => {
    for (const chosenFile of input.files ?? []) await takeFile(chosenFile);
    // The same file may be chosen again.
    input.value = '';
  };
  const items = [
    ...itemsOf(placeable),
    { type: 'divider' as const },
    {
      key: 'file',
      label: 'picture, medium or SVG…',
      icon: iconOf('picture'),
      onClick: () => known(file.current).click(),
    },
  ];
  return (
    <>
      <Dropdown
        trigger={['click']}
        open={open}
        onOpenChange={setOpen}
        destroyOnHidden
        {...KEYS_INSIDE}
        menu={{ items }}
      >
        <PlainButton title="Add a layer (A)">+ add</PlainButton>
      </Dropdown>
      <input
        ref={file}
        type="file"
        hidden
        accept={`.svg,image/svg+xml,image/jpeg,${MEDIA_FILES}`}
        aria-label="Picture, medium or SVG file"
        onChange={(event) => void take(event.target)}
      />
    </>
  );
}

/** Shapes, what is drawn by hand, copies of other pieces. */
function itemsOf(placeable: readonly ShelfEntry[]) {
  return [
    ...KINDS.map((kind) => ({
      key: kind,
      label: kind,
      icon: iconOf(kind),
      onClick: () => void add(kind),
    })),
    {
      key: 'path',
      label: 'outline, drawn',
      icon: iconOf('path'),
      onClick: () => look({ tool: 'pen', points: null }),
    },
    {
      key: 'line',
      label: 'line, drawn',
      icon: iconOf('path'),
      onClick: () => look({ tool: 'line', points: null }),
    },
    {
      key: 'piece',
      label: 'another piece',
      icon: iconOf('placement'),
      popupClassName: 'pieces-to-place',
      disabled: !placeable.length,
      title: placeable.length ? '' : 'There is no other piece that could stand in this one',
      children: placeable.map(({ id, name }) => ({ key: `piece ${id}`, label: name, onClick: () => void place(id) })),
    },
  ];
}
