import { Space } from 'antd';
import { readPath } from '../../../shared/geometry/path';
import { textOf } from '../../../shared/text/values';
import { Chip } from '../../../shared/ui/Chip';
import { useBench } from '../bench';
import { look, useView } from '../view';
import { bendChosen, chosenCorners, closeOrOpen, removeChosen } from './pointActions';
import type { Corner } from './pointEdits';

/** What can be done with the points of a path, beside their keys. */
export function PointTools() {
  const id = useView((v) => v.points);
  const some = useView((v) => v.corners.length > 0);
  const first = useView((v) => v.corners[0]);
  const path = useBench((b) => (id ? b.poses[b.state]?.[id]?.path : undefined));
  if (path === undefined) return null;
  const subpaths = readPath(textOf(path));
  const [corner] = first === undefined ? [] : chosenCorners();
  // Where there is but one outline, nothing has to be chosen to close it.
  const at: Corner | null = corner ?? (subpaths.length === 1 ? [0, (subpaths[0]?.knots.length ?? 1) - 1] : null);
  const isClosed = at !== null && subpaths[at[0]]?.closed;
  return (
    <Space.Compact role="group" aria-label="Points">
      <Chip
        disabled={!some}
        title={some ? 'Bend or straighten (Enter)' : 'Choose points first'}
        onClick={() => void bendChosen()}
      >
        bend
      </Chip>
      <Chip disabled={!some} title={some ? 'Delete' : 'Choose points first'} onClick={() => void removeChosen()}>
        remove
      </Chip>
      <Chip
        disabled={at === null}
        title={
          at === null
            ? 'Choose a point of the outline first'
            : isClosed
              ? 'Takes out the line behind the chosen point'
              : 'Joins both ends. The pen goes on from an end.'
        }
        onClick={() => at && void closeOrOpen(at)}
      >
        {isClosed ? 'open' : 'close'}
      </Chip>
      <Chip
        title="Double-click on the outline adds a point, Shift chooses several"
        onClick={() => look({ points: null })}
      >
        done
      </Chip>
    </Space.Compact>
  );
}
