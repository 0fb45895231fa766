import { Flex } from 'antd';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { chainTo } from '../../../shared/geometry/matrix';
import { changeGroup, order, remove } from '../actions';
import { useBench } from '../bench';
import { choose } from '../choosing';
import { chosenLayers } from '../chosen';
import { fromTheTop, shownRows, type Placed } from '../tree';
import { AddMenu } from './AddMenu';
import { Arrange } from './Arrange';
import { LayerActions } from './LayerActions';
import { LayerRow } from './LayerRow';
import { UsedBy } from './UsedBy';
import { useLayerDrag, type Drop } from './useLayerDrag';

const NOTHING_YET =
  'Nothing here yet. Start with “+ add”, or drop a drawing or a picture here; then give each state its own numbers.';

export function LayersPanel() {
  const chosen = useBench(useShallow(chosenLayers));
  const [renaming, setRenaming] = useState<string | null>(null);
  const { rows, isOpen, fold } = useRows(chosen);
  // A row that was clicked is on the stage: arrow keys move its layer. One that was gone to by keys is in the list.
  const clicked = useRef<string | null>(null);
  const onKey = (event: KeyboardEvent, index: number, id: string) => {
    if (clicked.current === id && !event.altKey && event.key.startsWith('Arrow')) return;
    const sideways = ({ ArrowRight: 'in', ArrowLeft: 'out' } as const)[event.key];
    const to = { ArrowDown: index + 1, ArrowUp: index - 1 }[event.key];
    if (event.altKey && to !== undefined) void order(to > index ? -1 : 1);
    else if (event.altKey && sideways) void changeGroup(sideways);
    else if (to !== undefined && rows[to]) {
      clicked.current = null;
      goTo(rows[to].layer.id);
    } else if (event.key === 'F2') setRenaming(id);
    else if (event.key === 'Delete') void remove();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const { drop, hands } = useLayerDrag((id) => rows.some((row) => row.layer.id === id && isOpen(row)));
  const list = useRef<HTMLUListElement>(null);
  const last = chosen.at(-1);
  useEffect(() => {
    if (last) list.current?.querySelector(`[data-row="${last}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [last]);
  return (
    <Flex vertical component="aside" className="layers">
      <Flex justify="space-between" style={{ padding: '9px 8px 5px 12px' }}>
        <strong className="quiet">Layers</strong>
        <AddMenu />
      </Flex>
      {!rows.length && <p className="hint">{NOTHING_YET}</p>}
      <ul ref={list} className="layer-list bare-list" aria-label="Layers, the topmost first" {...hands}>
        {rows.map((row, index) => (
          <LayerRow
            key={row.layer.id}
            row={row}
            chosen={chosen.includes(row.layer.id)}
            drop={dropOn(row.layer.id, drop)}
            open={isOpen(row)}
            fold={() => fold(row)}
            renaming={renaming === row.layer.id}
            setRenaming={setRenaming}
            onClicked={() => (clicked.current = row.layer.id)}
            onKey={(event) => onKey(event, index, row.layer.id)}
          />
        ))}
      </ul>
      {chosen.length > 0 && <LayerActions ids={chosen} rename={setRenaming} />}
      {chosen.length > 0 && <Arrange count={chosen.length} />}
      <UsedBy />
    </Flex>
  );
}

function dropOn(id: string, drop: Drop | null): string {
  if (drop?.ids.includes(id)) return ' pulled';
  return drop?.row === id ? ` drop-${drop.where}` : '';
}

/** The rows that are seen: outer groups stand open, inner ones until they are wanted. */
function useRows(chosen: readonly string[]) {
  const layers = useBench((b) => b.document.layers) ?? [];
  const [open, setOpen] = useState<Record<string, boolean>>({});
  const around = new Set(chosen.flatMap((id) => chainTo(layers, id).slice(0, -1)).map((layer) => layer.id));
  const isOpen = ({ layer, depth }: Placed) => around.has(layer.id) || (open[layer.id] ?? depth === 0);
  const fold = (row: Placed) => setOpen({ ...open, [row.layer.id]: !isOpen(row) });
  return { rows: shownRows(fromTheTop(layers), isOpen), isOpen, fold };
}

function goTo(layer: string): void {
  choose({ layer, transition: null });
  document.querySelector<HTMLElement>(`[data-row="${layer}"]`)?.focus();
}
