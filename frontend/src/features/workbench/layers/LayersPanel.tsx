import { Dropdown } from 'antd';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { chainTo } from '../../../shared/geometry/matrix';
import { add, order, remove } from '../actions';
import { takeFile } from '../artwork';
import { choose, chooseAlso, chosenLayers, make, useBench } from '../bench';
import { renameLayer, type Drawn } from '../edits';
import { NameField } from '../Rename';
import { stage } from '../shortcuts';
import { fromTheTop, shownRows, type Placed } from '../tree';
import { look } from '../view';
import { Arrange } from './Arrange';
import { KindIcon } from './icons';
import { LayerActions } from './LayerActions';
import { LookFields } from './LookFields';
import { known } from '../../../shared/known';

const KINDS: Drawn[] = ['rectangle', 'ellipse', 'text', 'group'];

export function LayersPanel() {
  const layers = useBench((b) => b.document.layers);
  const chosen = useBench(useShallow(chosenLayers));
  const pose = useBench((b) => b.poses[b.state]);
  const [renaming, setRenaming] = useState<string | null>(null);
  const [open, setOpen] = useState<Record<string, boolean>>({});
  const around = new Set(
    chosen.flatMap((id) =>
      chainTo(layers ?? [], id)
        .slice(0, -1)
        .map((l) => l.id),
    ),
  );
  // Outer groups stand open, inner ones until they are wanted.
  const isOpen = ({ layer, depth }: Placed) => around.has(layer.id) || (open[layer.id] ?? depth === 0);
  const rows = shownRows(fromTheTop(layers ?? []), isOpen);

  const onKey = (event: KeyboardEvent, index: number, id: string) => {
    const to = { ArrowDown: index + 1, ArrowUp: index - 1 }[event.key];
    if (event.altKey && to !== undefined) void order(to > index ? -1 : 1);
    else if (to !== undefined && rows[to]) {
      choose({ layer: rows[to].layer.id, transition: null });
      document.querySelector<HTMLElement>(`[data-row="${rows[to].layer.id}"]`)?.focus();
    } else if (event.key === 'F2') setRenaming(id);
    else if (event.key === 'Delete') void remove();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <aside className="layers">
      <div className="panel-head">
        <span>Layers</span>
        <AddMenu />
      </div>
      <ul className="layer-list" aria-label="Layers, the topmost first">
        {rows.map((row, index) => {
          const { layer, depth } = row;
          const hidden = pose?.[layer.id]?.visible === false;
          return (
            <li
              key={layer.id}
              className={chosen.includes(layer.id) ? 'chosen' : ''}
              style={{ paddingLeft: 4 + depth * 13 }}
            >
              {layer.kind === 'group' && (layer.layers ?? []).length > 0 ? (
                <button
                  className="plain fold"
                  aria-label={`${isOpen(row) ? 'Fold' : 'Unfold'} ${layer.name}`}
                  aria-expanded={isOpen(row)}
                  onClick={() => setOpen({ ...open, [layer.id]: !isOpen(row) })}
                >
                  <svg width="8" height="8" viewBox="0 0 8 8" aria-hidden="true">
                    <path d={isOpen(row) ? 'M0 2h8L4 7Z' : 'M2 0v8l5-4Z'} />
                  </svg>
                </button>
              ) : (
                <span className="fold" />
              )}
              {renaming === layer.id ? (
                <NameField
                  value={layer.name}
                  label="Name of the layer"
                  commit={(name) => make(renameLayer(useBench.getState().document, layer.id, name))}
                  close={() => setRenaming(null)}
                />
              ) : (
                <button
                  className={hidden ? 'layer-row hidden' : 'layer-row'}
                  data-row={layer.id}
                  aria-pressed={chosen.includes(layer.id)}
                  onClick={(event) =>
                    event.shiftKey || event.ctrlKey
                      ? chooseAlso(layer.id)
                      : choose({ layer: layer.id, transition: null })
                  }
                  onDoubleClick={() => setRenaming(layer.id)}
                  onKeyDown={(event) => onKey(event, index, layer.id)}
                >
                  <KindIcon kind={layer.kind} />
                  <span>{layer.name}</span>
                </button>
              )}
              {'mask' in layer && layer.mask && (
                <span className="locked" title="Cuts what stands above it in its group">
                  mask
                </span>
              )}
              {hidden && (
                <span className="locked" title="Not seen in this state">
                  hidden
                </span>
              )}
              {layer.locked && (
                <span className="locked" title="Locked: not caught by the pointer">
                  locked
                </span>
              )}
            </li>
          );
        })}
      </ul>
      {!rows.length && (
        <p className="hint">
          Nothing here yet. Start with “+ add”, or drop a drawing or a picture here; then give each state its own
          numbers.
        </p>
      )}
      {chosen.length > 0 && <LayerActions ids={chosen} rename={setRenaming} />}
      {chosen.length > 0 && <Arrange count={chosen.length} />}
      <LookFields />
    </aside>
  );
}

/** The keys go into the menu, not into the page. */
const KEYS_INSIDE = { autoFocus: true };

function AddMenu() {
  const [open, setOpen] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  useEffect(() => void (stage.addMenu = () => setOpen(true)), []);
  const take = async (input: HTMLInputElement) => {
    for (const chosenFile of input.files ?? []) await takeFile(chosenFile);
    // The same file may be chosen again.
    input.value = '';
  };
  const items = [
    ...KINDS.map((kind) => ({ key: kind, label: kind, icon: <KindIcon kind={kind} />, onClick: () => void add(kind) })),
    {
      key: 'path',
      label: 'outline, drawn',
      icon: <KindIcon kind="path" />,
      onClick: () => look({ tool: 'pen', points: null }),
    },
    {
      key: 'line',
      label: 'line, drawn',
      icon: <KindIcon kind="path" />,
      onClick: () => look({ tool: 'line', points: null }),
    },
    { type: 'divider' as const },
    {
      key: 'file',
      label: 'picture or SVG…',
      icon: <KindIcon kind="picture" />,
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
        <button className="plain" title="Add a layer (A)">
          + add
        </button>
      </Dropdown>
      <input
        ref={file}
        type="file"
        hidden
        accept=".svg,image/svg+xml,image/png,image/jpeg,image/webp"
        aria-label="Picture or SVG file"
        onChange={(event) => void take(event.target)}
      />
    </>
  );
}
