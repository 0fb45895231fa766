import { memo } from 'react';
import { Cut } from '../../shared/ui/Cut';
import { labelIn, propertyNamed, rowOf, useBench, type RowKey } from '../workbench';
import { ROW_H } from './rowHeight';
import { known } from '../../shared/known';

/** The label of each layer that has a row. */
export function namesOf(rows: readonly RowKey[]): ReadonlyMap<string, string> {
  const bench = useBench.getState();
  return new Map([...new Set(rows.map((row) => rowOf(row)[0]))].map((layer) => [layer, labelIn(bench, layer)]));
}

export const RowNames = memo(function RowNames({
  rows,
  view,
  names,
}: {
  rows: readonly RowKey[];
  view: { from: number; to: number };
  names: ReadonlyMap<string, string>;
}) {
  return (
    <ul className="row-names bare-list" aria-label="Rows" style={{ paddingTop: view.from * ROW_H }}>
      {rows.slice(view.from, view.to).map((row, at) => {
        const [layer, property] = rowOf(row);
        const i = view.from + at;
        const first = i === 0 || rowOf(known(rows[i - 1]))[0] !== layer;
        return (
          <li key={row}>
            <strong style={{ minWidth: 0 }}>
              {first && <Cut name={names.get(layer)?.replace(/^.* (?=› )/, '') ?? ''} />}
            </strong>
            <span className="quiet" style={{ flex: 'none' }}>
              {propertyNamed(property).label}
            </span>
          </li>
        );
      })}
    </ul>
  );
});
