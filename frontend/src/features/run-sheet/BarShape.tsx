import { memo } from 'react';
import type { RowKey } from '../workbench';

interface Props {
  id: string;
  row: RowKey;
  name: string;
  x: number;
  y: number;
  width: number;
  chosen: boolean;
  /** Of what moves inside of a copy: how long it takes is said by the original. */
  ofCopy: boolean;
  /** Start and end while it is pulled. */
  pulled: string | null;
}

/** One bar. Its events are heard by the drawing around it: a large piece has hundreds. */
export const BarShape = memo(function BarShape({ id, row, name, x, y, width, chosen, ofCopy, pulled }: Props) {
  // Of a short bar they lie beside it.
  const out = width > 16 ? 0 : 7;
  return (
    <g className={`bar-of${chosen ? ' chosen' : ''}${ofCopy ? ' of-copy' : ''}`} data-bar={id} data-row-of={row}>
      <rect
        className="body"
        x={x}
        y={y}
        width={width}
        height={11}
        tabIndex={0}
        role="button"
        aria-pressed={chosen}
        aria-label={`${name}; arrow keys move ${ofCopy ? 'the whole copy' : 'it, with Alt its end'}`}
      >
        <title>{name}</title>
      </rect>
      {!ofCopy && (
        <>
          <rect className="end" data-end="start" x={x - out} y={y - 2} width={6} height={15} />
          <rect className="end" data-end="end" x={x + width - 6 + out} y={y - 2} width={6} height={15} />
        </>
      )}
      {pulled && (
        <text className="figure" style={{ fill: 'var(--ink)' }} x={x + width + 5} y={y + 9}>
          {pulled}
        </text>
      )}
    </g>
  );
});
