import type { KeyboardEvent } from 'react';
import type { Placement } from '../../../api/contract';
import { area } from '../../../shared/drawing/paint';
import { make, useBench } from '../bench';
import { choose, chooseAlso } from '../choosing';
import { renameLayer } from '../edits';
import { NameField } from '../Rename';
import type { Placed } from '../tree';
import { standingName } from '../placements';
import { KindIcon } from './icons';
import { Cut } from '../../../shared/ui/Cut';
import { PlainButton } from '../../../shared/ui/PlainButton';

interface Props {
  row: Placed;
  chosen: boolean;
  /** What of a pull it shows, as a class. */
  drop: string;
  /** Of a group: whether what is in it is listed. */
  open: boolean;
  fold: () => void;
  renaming: boolean;
  setRenaming: (id: string | null) => void;
  onKey: (event: KeyboardEvent) => void;
  /** By the pointer. */
  onClicked: () => void;
}

const FOLD = { flex: 'none', width: 16, marginRight: -5 };

/** A layer in the list: folded, chosen, renamed; with what is special about it. */
export function LayerRow({ row, chosen, drop, open, fold, renaming, setRenaming, onKey, onClicked }: Props) {
  const { layer, depth } = row;
  const hidden = useBench((b) => b.poses[b.state]?.[layer.id]?.visible === false);
  return (
    <li className={`${chosen ? 'chosen' : ''}${drop}`} style={{ paddingLeft: 4 + depth * 13 }}>
      <Fold row={row} open={open} fold={fold} />
      {renaming ? (
        <NameField
          value={layer.name}
          label="Name of the layer"
          commit={(name) => make(renameLayer(useBench.getState().document, layer.id, name))}
          close={() => setRenaming(null)}
        />
      ) : (
        <button
          className={hidden ? 'layer-row bare hidden' : 'layer-row bare'}
          data-row={layer.id}
          aria-pressed={chosen}
          onClick={(event) => {
            if (event.detail) onClicked();
            if (event.shiftKey || event.ctrlKey) chooseAlso(layer.id);
            else choose({ layer: layer.id, transition: null });
          }}
          onDoubleClick={() => setRenaming(layer.id)}
          onKeyDown={onKey}
        >
          <KindIcon kind={layer.kind} />
          <Cut name={layer.name} />
        </button>
      )}
      {layer.kind === 'placement' && <Standing layer={layer} />}
      {'mask' in layer && layer.mask && <Tag title="Not painted: it cuts what stands above it in its group">mask</Tag>}
      {hidden && <Tag title="Not seen in this state">hidden</Tag>}
      {layer.locked && <Tag title="Locked: not caught by the pointer">locked</Tag>}
    </li>
  );
}

/** The state in which a copy stands. */
function Standing({ layer }: { layer: Placement }) {
  const state = useBench((b) => standingName(b, layer.id));
  return <span className="standing mono">{state}</span>;
}

function Fold({ row: { layer }, open, fold }: Pick<Props, 'row' | 'open' | 'fold'>) {
  if (layer.kind !== 'group' || !layer.layers?.length) return <span style={FOLD} />;
  return (
    <PlainButton
      style={FOLD}
      aria-label={`${open ? 'Fold' : 'Unfold'} ${layer.name}`}
      aria-expanded={open}
      onClick={fold}
    >
      <svg width="8" height="8" viewBox="0 0 8 8" aria-hidden="true">
        <path {...area('quiet')} d={open ? 'M0 2h8L4 7Z' : 'M2 0v8l5-4Z'} />
      </svg>
    </PlainButton>
  );
}

const Tag = ({ title, children }: { title: string; children: string }) => (
  <span style={{ color: 'var(--faint)', fontSize: 10.5 }} title={title}>
    {children}
  </span>
);
