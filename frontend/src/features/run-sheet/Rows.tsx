import { Flex } from 'antd';
import { useMemo } from 'react';
import { line } from '../../shared/drawing/paint';
import { propertyNamed, useBench, type RowKey } from '../workbench';
import { BarShape } from './BarShape';
import type { Mark } from './findings';
import { Links } from './Links';
import { laneOfBar, type Bar, type Snap } from './model';
import { namesOf, RowNames } from './RowNames';
import { ROW_H } from './rowHeight';
import type { Scale } from './Sheet';
import { useBarPulls } from './useBarPulls';
import { known } from '../../shared/known';

interface Props {
  bars: readonly Bar[];
  rows: readonly RowKey[];
  /** The rows in view. */
  shown: { from: number; to: number };
  chosen: readonly string[];
  choose: (keys: readonly string[]) => void;
  snap: Snap;
  scale: Scale;
  marks: readonly Mark[];
}

/** A line for each row, its bars pulled along it. */
export function Rows({ bars, rows, shown: view, chosen, choose, snap, scale, marks }: Props) {
  const layers = useBench((b) => b.document.layers);
  const { pulled, hands } = useBarPulls({ bars, chosen, choose, snap, scale });
  // Found once for all bars: a large piece has hundreds of them.
  const placeOfRow = useMemo(() => new Map(rows.map((row, i) => [row, i])), [rows]);
  const names = useMemo(() => namesOf(rows), [rows, layers]); // eslint-disable-line react-hooks/exhaustive-deps -- names change with the layers
  const drawn = useMemo(() => {
    const isInView = (at: number) => at >= view.from && at < view.to;
    return bars.filter((bar) => isInView(known(placeOfRow.get(bar.row))));
  }, [bars, placeOfRow, view.from, view.to]);
  const isOnAxis = (bar: Bar) => bar.end_ms >= scale.ms(-40) && bar.start_ms <= scale.ms(scale.width + 40);
  const [width, height] = [scale.width + 26, rows.length * ROW_H];
  const nameOf = (bar: Bar) => `${names.get(bar.layer)} ${propertyNamed(bar.property).label}`;
  return (
    <Flex className="rows">
      <RowNames rows={rows} view={view} names={names} />
      <svg width={width} height={height} aria-label="Bars" {...hands}>
        {rows.slice(view.from, view.to).map((row, i) => {
          const y = (view.from + i + 1) * ROW_H - 0.5;
          return <line key={row} {...line('grid')} x1={0} x2={width} y1={y} y2={y} />;
        })}
        <DeadTimes marks={marks} scale={scale} height={height} />
        <Links bars={drawn} all={bars} place={placeOfRow} scale={scale} pulled={pulled?.places} />
        {drawn.filter(isOnAxis).map((bar) => {
          const place = pulled?.places.get(bar.key);
          const [start, end] = place ?? [bar.start_ms, bar.end_ms];
          return (
            <BarShape
              key={bar.key}
              id={bar.key}
              row={bar.row}
              name={`${nameOf(bar)}, ${Math.round(start)} to ${Math.round(end)} ms`}
              x={scale.x(start)}
              y={known(placeOfRow.get(bar.row)) * ROW_H + 8}
              width={Math.max(scale.x(end) - scale.x(start), 3)}
              chosen={chosen.includes(bar.key)}
              ofCopy={laneOfBar(bar).ofCopy}
              pulled={
                place && pulled
                  ? `${Math.round(start)}–${Math.round(end)}${pulled.stopped && ` · ${pulled.stopped}`}`
                  : null
              }
            />
          );
        })}
        <Clashes marks={marks} scale={scale} place={placeOfRow} nameOf={nameOf} />
      </svg>
    </Flex>
  );
}

interface Found {
  marks: readonly Mark[];
  scale: Scale;
}

/** Stretches of the run in which nothing moves. */
function DeadTimes({ marks, scale, height }: Found & { height: number }) {
  const dead = marks.filter(({ kind }) => kind === 'dead');
  return dead.map(({ key, from_ms, to_ms }) => (
    <rect key={key} className="dead" x={scale.x(from_ms)} width={scale.x(to_ms) - scale.x(from_ms)} height={height}>
      <title>{`nothing moves from ${from_ms} to ${to_ms} ms`}</title>
    </rect>
  ));
}

/** Motion that is cut off, or should begin before its transition does. */
function Clashes({
  marks,
  scale,
  place,
  nameOf,
}: Found & { place: ReadonlyMap<RowKey, number>; nameOf: (bar: Bar) => string }) {
  return marks.map(
    ({ key, kind, bar, from_ms, to_ms, says }) =>
      kind === 'clash' &&
      bar && (
        <rect
          key={key}
          className="clash"
          stroke="var(--coral)"
          strokeDasharray="3 2"
          x={scale.x(from_ms)}
          width={Math.max(scale.x(to_ms) - scale.x(from_ms), 3)}
          y={known(place.get(bar.row)) * ROW_H + 4}
          height={ROW_H - 8}
        >
          <title>{`${nameOf(bar)} ${says}`}</title>
        </rect>
      ),
  );
}
