import { Dropdown } from 'antd';
import { useRef, useState, type KeyboardEvent } from 'react';
import { chainTo } from '../../../shared/geometry/matrix';
import { takeFile } from '../artwork';
import { attempt, choose, make, useBench } from '../bench';
import { addLayer, duplicateLayer, moveLayer, removeLayer, renameLayer, setFixed, type Drawn, type Edit } from '../edits';
import { NameField } from '../Rename';
import { fromTheTop, shownRows, type Placed } from '../tree';
import { KindIcon } from './icons';
import { LookFields } from './LookFields';

const KINDS: Drawn[] = ['rectangle', 'ellipse', 'path', 'text', 'group'];

/** The document at the moment of an action; the list itself follows the layers alone. */
const now = () => useBench.getState().document!;

async function makeAndChoose(edit: Edit & { id: string }): Promise<void> {
  if (await attempt(edit)) choose({ layer: edit.id, transition: null });
}

export function LayersPanel() {
  const layers = useBench((b) => b.document!.layers);
  const chosen = useBench((b) => b.layer);
  const [renaming, setRenaming] = useState<string | null>(null);
  const [open, setOpen] = useState<Record<string, boolean>>({});
  const around = new Set(chosen ? chainTo(layers ?? [], chosen).slice(0, -1).map((l) => l.id) : []);
  // Outer groups stand open, inner ones until they are wanted.
  const isOpen = ({ layer, depth }: Placed) => around.has(layer.id) || (open[layer.id] ?? depth === 0);
  const rows = shownRows(fromTheTop(layers ?? []), isOpen);

  const file = useRef<HTMLInputElement>(null);
  const take = async (input: HTMLInputElement) => {
    for (const chosenFile of input.files ?? []) await takeFile(chosenFile);
    // The same file may be chosen again.
    input.value = '';
  };
  const drawn = KINDS.map((kind) => ({ key: kind, label: kind, icon: <KindIcon kind={kind} />, onClick: () => void makeAndChoose(addLayer(now(), kind)) }));

  const onKey = (event: KeyboardEvent, index: number, id: string) => {
    const to = { ArrowDown: index + 1, ArrowUp: index - 1 }[event.key];
    if (event.altKey && to !== undefined) void attempt(moveLayer(now(), id, index - to));
    else if (to !== undefined && rows[to]) {
      choose({ layer: rows[to].layer.id, transition: null });
      document.querySelector<HTMLElement>(`[data-row="${rows[to].layer.id}"]`)?.focus();
    } else if (event.key === 'F2') setRenaming(id);
    else if (event.key === 'Delete') void attempt(removeLayer(now(), id));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <aside className="layers">
      <div className="panel-head">
        <span>Layers</span>
        <Dropdown trigger={['click']} menu={{ items: [...drawn, { type: 'divider' }, { key: 'svg', label: 'drawing from SVG…', onClick: () => file.current!.click() }] }}>
          <button className="plain">+ add</button>
        </Dropdown>
        <input ref={file} type="file" hidden accept=".svg,image/svg+xml" aria-label="SVG file" onChange={(event) => void take(event.target)} />
      </div>
      <ul className="layer-list" aria-label="Layers, the topmost first">
        {rows.map((row, index) => {
          const { layer, depth } = row;
          return (
          <li key={layer.id} className={layer.id === chosen ? 'chosen' : ''} style={{ paddingLeft: 4 + depth * 13 }}>
            {layer.kind === 'group' && (layer.layers ?? []).length > 0 ? (
              <button className="plain fold" aria-label={`${isOpen(row) ? 'Fold' : 'Unfold'} ${layer.name}`} aria-expanded={isOpen(row)} onClick={() => setOpen({ ...open, [layer.id]: !isOpen(row) })}>
                <svg width="8" height="8" viewBox="0 0 8 8" aria-hidden="true">
                  <path d={isOpen(row) ? 'M0 2h8L4 7Z' : 'M2 0v8l5-4Z'} />
                </svg>
              </button>
            ) : (
              <span className="fold" />
            )}
            {renaming === layer.id ? (
              <NameField value={layer.name} label="Name of the layer" commit={(name) => make(renameLayer(now(), layer.id, name))} close={() => setRenaming(null)} />
            ) : (
              <button
                className="layer-row"
                data-row={layer.id}
                aria-pressed={layer.id === chosen}
                onClick={() => choose({ layer: layer.id, transition: null })}
                onDoubleClick={() => setRenaming(layer.id)}
                onKeyDown={(event) => onKey(event, index, layer.id)}
              >
                <KindIcon kind={layer.kind} />
                {layer.name}
              </button>
            )}
            {layer.locked && <span className="locked" title="Locked: not caught by the pointer">locked</span>}
          </li>
          );
        })}
      </ul>
      {!rows.length && <p className="hint">Nothing here yet. Start with “+ add”, or drop an SVG drawing here; then give each state its own numbers.</p>}
      <LayerActions row={rows.find((row) => row.layer.id === chosen)} rename={setRenaming} />
      <LookFields />
    </aside>
  );
}

function LayerActions({ row, rename }: { row: Placed | undefined; rename: (id: string) => void }) {
  if (!row) return null;
  const { layer, index, siblings } = row;
  return (
    <div className="layer-actions" role="group" aria-label={`Actions for ${layer.name}`}>
      <button className="plain" disabled={index === siblings.length - 1} title="Further up in the picture (Alt ↑)" onClick={() => void attempt(moveLayer(now(), layer.id, 1))}>
        raise
      </button>
      <button className="plain" disabled={index === 0} title="Further down in the picture (Alt ↓)" onClick={() => void attempt(moveLayer(now(), layer.id, -1))}>
        lower
      </button>
      <button className="plain" onClick={() => void makeAndChoose(duplicateLayer(now(), layer.id))}>
        duplicate
      </button>
      <button className="plain" title="F2" onClick={() => rename(layer.id)}>
        rename
      </button>
      <button className="plain" onClick={() => void attempt(setFixed(now(), layer.id, 'locked', !layer.locked))}>
        {layer.locked ? 'unlock' : 'lock'}
      </button>
      <button className="plain" onClick={() => void attempt(removeLayer(now(), layer.id))}>
        delete
      </button>
    </div>
  );
}
