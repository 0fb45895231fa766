/* Copies that are opened in the score: what is in them has rows too, which say what their originals do. */
import { PROPERTIES } from '../../../api/generated/catalogue';
import type { Pose } from '../../../api/contract';
import { chainTo } from '../../../shared/geometry/matrix';
import { sameValue } from '../../../shared/text/values';
import type { Bench } from '../bench';
import { rowOf, type RowKey } from '../tree';

type Flat = NonNullable<Bench['layers']>[number];

/** Whether a row is of what lies in a copy, and not of a layer of the piece. */
export const isInner = (row: RowKey): boolean => rowOf(row)[0].includes('/');

/** The rows of the piece, and after those of each opened copy (ids, joined by commas) the rows of what is in it. */
export function withOpened(
  rows: readonly RowKey[],
  poses: Record<string, Pose>,
  layers: Bench['layers'],
  opened: string,
): RowKey[] {
  const open = new Set(opened.split(',').filter(Boolean));
  return rows.flatMap((row, at) => {
    const [layer] = rowOf(row);
    const next = rows[at + 1];
    const isLast = !next || rowOf(next)[0] !== layer;
    return isLast && open.has(layer) ? [row, ...innerRows(layer, Object.values(poses), layers)] : [row];
  });
}

/** What differs from state to state in a copy. */
function innerRows(copy: string, poses: readonly Pose[], layers: Bench['layers']): RowKey[] {
  const inner = chainTo<Flat>(layers ?? [], copy).at(-1)?.layers;
  return every(inner ?? []).flatMap(({ id, kind }) =>
    PROPERTIES.filter((p) => p.varies && p.kinds.includes(kind) && p.blend !== 'placed')
      .filter(({ name }) => poses.some((pose) => !sameValue(pose[id]?.[name], poses[0]?.[id]?.[name])))
      .map(({ name }): RowKey => `${id}/${name}`),
  );
}

const every = (layers: readonly Flat[]): Flat[] => layers.flatMap((layer) => [layer, ...every(layer.layers ?? [])]);
