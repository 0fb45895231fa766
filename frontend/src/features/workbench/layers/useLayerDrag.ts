import type { PointerEvent } from 'react';
import { useRef } from 'react';
import { useHeld } from '../../../shared/ui/useHeld';
import { regroup } from '../actions';
import { useBench } from '../bench';
import { chooseLayers } from '../choosing';
import { chosenLayers } from '../chosen';
import type { Goal } from '../edits';
import { unlocked } from '../looks';
import { outermost } from '../stage/caught';
import { chainTo } from '../../../shared/geometry/matrix';

export interface Drop {
  ids: readonly string[];
  /** The row that is met, and where on it; none while there is nothing to drop on. */
  row: string | null;
  where: 'above' | 'below' | 'into';
}

/** px before a press becomes a pull */
const LEAST = 5;

/** Rows of layers that are pulled to another place in the list, into a group or out of one. */
export function useLayerDrag(isOpen: (id: string) => boolean) {
  const { shown, held, hold } = useHeld<Drop>();
  const pressed = useRef<{ id: string; y: number } | null>(null);
  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    const row = (event.target as Element).closest('[data-row]');
    pressed.current = row && event.button === 0 ? { id: String(row.getAttribute('data-row')), y: event.clientY } : null;
  };
  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    if (!pressed.current || event.buttons !== 1) return;
    const { id, y } = pressed.current;
    if (!held()) {
      if (Math.abs(event.clientY - y) < LEAST) return;
      event.currentTarget.setPointerCapture(event.pointerId);
    }
    const ids = held()?.ids ?? taken(id);
    if (ids.length) hold({ ids, ...metAt(event.clientX, event.clientY, ids, isOpen) });
  };
  const onPointerUp = () => {
    const drop = held();
    pressed.current = null;
    hold(null);
    if (drop?.row) void regroup(drop.ids, goalOf(drop.row, drop.where));
  };
  const onPointerCancel = () => {
    pressed.current = null;
    hold(null);
  };
  return { drop: shown, hands: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel } };
}

/** All that is chosen, where one of it is pulled; else that alone, chosen by that. */
function taken(id: string): readonly string[] {
  const bench = useBench.getState();
  const chosen = chosenLayers(bench);
  const ids = chosen.includes(id) ? chosen : [id];
  if (!chosen.includes(id)) chooseLayers(ids);
  return outermost(bench.document.layers ?? [], unlocked(bench.document, ids));
}

const goalOf = (row: string, where: Drop['where']): Goal => (where === 'into' ? { into: row } : { beside: row, where });

function metAt(x: number, y: number, ids: readonly string[], isOpen: (id: string) => boolean): Omit<Drop, 'ids'> {
  const item = document.elementFromPoint(x, y)?.closest('.layer-list li');
  const row = item?.querySelector('[data-row]')?.getAttribute('data-row') ?? null;
  const layers = useBench.getState().document.layers ?? [];
  const chain = row ? chainTo(layers, row) : [];
  // Nothing lies beside itself, or in itself.
  if (!item || chain.some((layer) => ids.includes(layer.id))) return { row: null, where: 'above' };
  const box = item.getBoundingClientRect();
  const share = (y - box.top) / box.height;
  if (chain.at(-1)?.kind !== 'group') return { row, where: share < 0.5 ? 'above' : 'below' };
  if (share < 0.3) return { row, where: 'above' };
  return { row, where: share < 0.7 || (row && isOpen(row)) ? 'into' : 'below' };
}
