/* What can be done to the block of cells that is chosen. */
import { api } from '../../../api/client';
import { attempt, sayFault, useBench } from '../bench';
import * as edits from '../edits';
import type { RowKey } from '../tree';
import { edgesOf, useBlock } from './block';
import type { Column } from './columns';
import { isInner } from './opened';
import { firstOf, lastOf } from '../../../shared/known';

/** What the score shows at present; kept by the score for those who act on it. */
export const shown: { rows: readonly RowKey[]; columns: readonly Column[] } = { rows: [], columns: [] };

/** The cells of the block; from its first corner to the end of the score with `onwards`. */
export function blockCells(onwards = false): edits.Cells | null {
  const { block } = useBlock.getState();
  if (!block) return null;
  const { top, bottom, left, right } = edgesOf(block);
  const columns = shown.columns.slice(left, onwards ? undefined : right + 1);
  // What lies in copies is their originals' affair.
  const rows = shown.rows.slice(top, onwards ? undefined : bottom + 1).filter((row) => !isInner(row));
  return rows.length ? { rows, states: columns.filter((c) => c.kind === 'state').map((c) => c.id) } : null;
}

const now = () => useBench.getState().document;

async function edited(make: (piece: ReturnType<typeof now>, cells: edits.Cells) => edits.Edit): Promise<void> {
  const cells = blockCells();
  if (cells) await attempt(make(now(), cells));
}

export const clear = () => edited(edits.clearCells);
/** By as much, or to as many times, as the text says. */
export const change = (by: (from: number) => number) => edited((piece, cells) => edits.changeCells(piece, cells, by));
export const mirror = () => edited(edits.mirrorCells);

/** Into the rest of the block; from a single cell into all states. */
export async function fill(): Promise<void> {
  const cells = blockCells();
  if (!cells) return;
  const states =
    cells.states.length > 1
      ? cells.states
      : [
          firstOf(cells.states),
          ...now()
            .states.map((s) => s.id)
            .filter((id) => id !== cells.states[0]),
        ];
  await attempt(edits.fillAcross(now(), { ...cells, states }));
}

/** Between the first and the last state of the block, in equal steps along the easing. */
export async function spread(easing: string, along: string): Promise<void> {
  const cells = blockCells();
  if (!cells || cells.states.length < 3) return;
  try {
    const [from, to] = [firstOf(cells.states), lastOf(cells.states)];
    const { steps } = await api.between(now().id, { from, to, count: cells.states.length - 2, easing });
    await attempt(edits.spreadCells(now(), cells, steps, along));
  } catch (error) {
    sayFault(error);
  }
}

export function copyText(): string | null {
  const cells = blockCells();
  return cells && edits.cellsText(now(), cells);
}

export async function paste(text: string): Promise<void> {
  const block = blockCells();
  const onwards = blockCells(true);
  if (!block || !onwards) return;
  // One value fills the block that is chosen.
  const [[only = '', ...others] = [], ...more] = edits.tableOf(text);
  const isOne = !others.length && !more.length && block.rows.length * block.states.length > 1;
  const edit = isOne
    ? edits.pasteCells(now(), block, edits.fillWith(block, only))
    : edits.pasteCells(now(), onwards, text);
  if ('fault' in edit) sayFault(new edits.CannotBe(edit.fault));
  else await attempt(edit);
}
