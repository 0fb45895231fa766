import { line } from '../../shared/drawing/paint';
import { edits, useBench, type RowKey } from '../workbench';
import { linkedTo } from './findings';
import type { Bar } from './model';
import { ROW_H } from './rowHeight';
import type { Scale } from './Sheet';
import { known } from '../../shared/known';

/** What starts with, after or before the end of another: a dotted line from there. */
export function Links({
  bars,
  all,
  place,
  scale,
}: {
  bars: readonly Bar[];
  all: readonly Bar[];
  place: ReadonlyMap<RowKey, number>;
  scale: Scale;
}) {
  const transitions = useBench((b) => b.document.transitions ?? []);
  const y = (row: RowKey) => known(place.get(row)) * ROW_H + 13;
  const linking = new Set(transitions.filter((t) => (t.lanes ?? []).some((lane) => lane.anchor)).map((t) => t.id));
  return (
    <g {...line('brass', 1, '3 3')}>
      {bars.map((bar) => {
        const anchor = linking.has(bar.transition)
          ? edits.laneOf(transitions, bar.transition, bar.layer, bar.property)?.anchor
          : null;
        const to = anchor?.layer && linkedTo(bar, anchor, all);
        if (!to) return null;
        const from = anchor.edge === 'with' ? to.start_ms : to.end_ms;
        return (
          <path
            key={bar.key}
            d={`M${scale.x(from)} ${y(to.row)}L${scale.x(bar.start_ms)} ${y(bar.row)}`}
            data-link={bar.key}
          />
        );
      })}
    </g>
  );
}
