import { useMemo } from 'react';
import type { Transition } from '../../api/contract';
import { line } from '../../shared/drawing/paint';
import { edits, useBench, type RowKey } from '../workbench';
import { linkedTo } from './findings';
import type { Bar } from './model';
import type { Places } from './places';
import { ROW_H } from './rowHeight';
import type { Scale } from './Sheet';
import { known } from '../../shared/known';

interface Props {
  bars: readonly Bar[];
  all: readonly Bar[];
  place: ReadonlyMap<RowKey, number>;
  scale: Scale;
  /** Where bars stand that are pulled. */
  pulled: Places | undefined;
}

/** What starts with, after or before the end of another: a dotted line from there. */
export function Links({ bars, all, place, scale, pulled }: Props) {
  const transitions = useBench((b) => b.document.transitions);
  // Found once, and not while they are pulled along.
  const links = useMemo(() => linksOf(transitions ?? [], bars, all), [transitions, bars, all]);
  const y = (row: RowKey) => known(place.get(row)) * ROW_H + 13;
  return (
    <g {...line('brass', 1, '3 3')}>
      {links.map(({ bar, to, edge }) => {
        const [start, end] = pulled?.get(to.key) ?? [to.start_ms, to.end_ms];
        const [own] = pulled?.get(bar.key) ?? [bar.start_ms];
        return (
          <path
            key={bar.key}
            d={`M${scale.x(edge === 'with' ? start : end)} ${y(to.row)}L${scale.x(own)} ${y(bar.row)}`}
            data-link={bar.key}
          />
        );
      })}
    </g>
  );
}

interface Link {
  bar: Bar;
  to: Bar;
  edge: edits.Anchor['edge'];
}

function linksOf(transitions: readonly Transition[], bars: readonly Bar[], all: readonly Bar[]): Link[] {
  const linking = new Set(transitions.filter((t) => (t.lanes ?? []).some((lane) => lane.anchor)).map((t) => t.id));
  return bars.flatMap((bar): Link[] => {
    const anchor = linking.has(bar.transition)
      ? edits.laneOf(transitions, bar.transition, bar.layer, bar.property)?.anchor
      : null;
    const to = anchor?.layer && linkedTo(bar, anchor, all);
    return anchor && to ? [{ bar, to, edge: anchor.edge }] : [];
  });
}
