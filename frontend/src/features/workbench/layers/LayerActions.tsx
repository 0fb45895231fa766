import * as actions from '../actions';
import { attempt, useBench } from '../bench';
import { namesOf, setFixed } from '../edits';
import { placed } from '../tree';
import { lastOf } from '../../../shared/known';

interface Props {
  ids: readonly string[];
  rename: (id: string) => void;
}

/** What can be done to the chosen layers. */
export function LayerActions({ ids, rename }: Props) {
  const piece = useBench((b) => b.document);
  const pose = useBench((b) => b.poses[b.state]);
  const found = ids.map((id) => placed(piece, id));
  const { layer, index, siblings } = lastOf(found);
  const alone = ids.length === 1;
  const locked = found.every((p) => p.layer.locked);
  const seen = ids.every((id) => pose?.[id]?.visible);
  const shape =
    alone && (layer.kind === 'rectangle' || layer.kind === 'ellipse' || layer.kind === 'path') ? layer : null;
  return (
    <div className="layer-actions" role="group" aria-label={`Actions for ${namesOf(piece, ids)}`}>
      <button
        className="plain"
        disabled={!alone || index === siblings.length - 1}
        title="Further up in the picture (Alt ↑)"
        onClick={() => void actions.order(1)}
      >
        raise
      </button>
      <button
        className="plain"
        disabled={!alone || index === 0}
        title="Further down in the picture (Alt ↓)"
        onClick={() => void actions.order(-1)}
      >
        lower
      </button>
      <button className="plain" title="T" onClick={() => void actions.duplicate()}>
        duplicate
      </button>
      <button className="plain" title="G" onClick={() => void actions.group()}>
        group
      </button>
      {layer.kind === 'group' && (
        <button className="plain" title="Shift G" onClick={() => void actions.ungroup()}>
          ungroup
        </button>
      )}
      {shape && (
        <button
          className="plain"
          title="What stands above it in its group is seen only inside its outline"
          onClick={() => void attempt(setFixed(piece, layer.id, 'mask', !shape.mask))}
        >
          {shape.mask ? 'no mask' : 'as mask'}
        </button>
      )}
      <button className="plain" title="In this state (H)" onClick={() => void actions.hide()}>
        {seen ? 'hide' : 'show'}
      </button>
      <button className="plain" title="K" onClick={() => void actions.lock()}>
        {locked ? 'unlock' : 'lock'}
      </button>
      {alone && (
        <button className="plain" title="F2" onClick={() => rename(layer.id)}>
          rename
        </button>
      )}
      <button className="plain" title="Delete" onClick={() => void actions.remove()}>
        delete
      </button>
    </div>
  );
}
