import { memo, useMemo, type KeyboardEvent, type PointerEvent } from 'react';
import { stepped } from '../../shared/ui/hands';
import { useHeld } from '../../shared/ui/useHeld';
import { attempt, edits, labelOf, propertyNamed, rowOf, sayFault, useBench, type RowKey } from '../workbench';
import { moveBars, type Pull } from './barEdits';
import { BarShape } from './BarShape';
import { linkedTo, type Mark } from './findings';
import { barsOf, endsBeside, snapped, type Bar, type Snap } from './model';
import type { Scale } from './Sheet';
import { known } from '../../shared/known';

export const ROW_H = 27;
/** px on the screen within which ends snap */
const REACH = 6;

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

interface Held extends Pull {
  pressed: Bar;
  keys: readonly string[];
  from_ms: number;
}

/** A line for each row, its bars pulled along it. */
export function Rows({ bars, rows, shown: view, chosen, choose, snap, scale, marks }: Props) {
  const layers = useBench((b) => b.document.layers);
  const { shown, held, hold } = useHeld<Held>();
  const height = rows.length * ROW_H;
  // Found once for all bars: a large piece has hundreds of them.
  const place = useMemo(() => new Map(rows.map((row, i) => [row, i])), [rows]);
  const names = useMemo(() => namesOf(rows), [rows, layers]); // eslint-disable-line react-hooks/exhaustive-deps -- names change with the layers
  const drawn = bars.filter((bar) => known(place.get(bar.row)) >= view.from && known(place.get(bar.row)) < view.to);
  const barAt = (target: EventTarget) => {
    const key = (target as Element).closest('[data-bar]')?.getAttribute('data-bar');
    return bars.find((bar) => bar.key === key);
  };
  const msAt = (event: PointerEvent<SVGSVGElement>) =>
    scale.ms(event.clientX - event.currentTarget.getBoundingClientRect().left);

  const down = (event: PointerEvent<SVGSVGElement>) => {
    const bar = barAt(event.target);
    if (!bar || event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const part = ((event.target as Element).getAttribute('data-end') ?? 'move') as Pull['part'];
    const keys = event.shiftKey
      ? chosen.includes(bar.key)
        ? chosen.filter((key) => key !== bar.key)
        : [...chosen, bar.key]
      : chosen.includes(bar.key)
        ? chosen
        : [bar.key];
    // The one that was pressed is the last, and the one that snaps.
    const ordered = keys.includes(bar.key) ? [...keys.filter((key) => key !== bar.key), bar.key] : keys;
    choose(ordered);
    if (!event.shiftKey)
      hold({
        pressed: bar,
        keys: part === 'move' ? ordered : [bar.key],
        part,
        by_ms: 0,
        alone: event.altKey,
        from_ms: msAt(event),
      });
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    const now = held();
    if (!now || event.buttons !== 1) return;
    const bar = now.pressed;
    const edge = now.part === 'end' ? bar.end_ms : bar.start_ms;
    const to = snapped(
      edge + msAt(event) - now.from_ms,
      event.ctrlKey ? '10' : snap,
      [bar.base_ms, ...endsBeside(bars, now.keys)],
      scale.ms(REACH),
    );
    hold({ ...now, by_ms: Math.max(to, bar.base_ms) - edge });
  };
  const pulls = useMemo(() => new Pulls(), []);
  const up = async () => {
    const now = held();
    if (now && now.by_ms !== 0) await pulls.add(now.keys, now);
    if (held() === now) hold(null);
  };
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const bar = barAt(event.target);
    if (!by || !bar) return;
    event.preventDefault();
    event.stopPropagation();
    const keys = chosen.includes(bar.key) ? chosen : [bar.key];
    choose(keys);
    void pulls.add(keys, {
      part: event.altKey ? 'end' : 'move',
      by_ms: by * (event.shiftKey ? 100 : 10),
      alone: false,
    });
  };

  return (
    <div className="rows">
      <RowNames rows={rows} view={view} names={names} />
      <svg
        width={scale.width + 26}
        height={height}
        aria-label="Bars"
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={() => void up()}
        onPointerCancel={() => hold(null)}
        onKeyDown={onKey}
      >
        {rows.slice(view.from, view.to).map((row, i) => (
          <line
            key={row}
            className="row-line"
            x1={0}
            x2={scale.width + 26}
            y1={(view.from + i + 1) * ROW_H - 0.5}
            y2={(view.from + i + 1) * ROW_H - 0.5}
          />
        ))}
        {marks.map(
          ({ key, kind, from_ms, to_ms }) =>
            kind === 'dead' && (
              <rect
                key={key}
                className="dead"
                x={scale.x(from_ms)}
                width={scale.x(to_ms) - scale.x(from_ms)}
                height={height}
              >
                <title>{`nothing moves from ${from_ms} to ${to_ms} ms`}</title>
              </rect>
            ),
        )}
        <Links bars={drawn} all={bars} place={place} scale={scale} />
        {drawn.map((bar) => {
          const pulled = shown?.keys.includes(bar.key) ? shown : null;
          const start = bar.start_ms + (pulled && pulled.part !== 'end' ? pulled.by_ms : 0);
          const end = bar.end_ms + (pulled && pulled.part !== 'start' ? pulled.by_ms : 0);
          return (
            <BarShape
              key={bar.key}
              id={bar.key}
              row={bar.row}
              name={`${names.get(bar.layer)} ${propertyNamed(bar.property).label}, ${Math.round(start)} to ${Math.round(end)} ms`}
              x={scale.x(start)}
              y={known(place.get(bar.row)) * ROW_H + 8}
              width={Math.max(scale.x(end) - scale.x(start), 3)}
              chosen={chosen.includes(bar.key)}
              pulled={pulled && `${Math.round(start)}–${Math.round(end)}`}
            />
          );
        })}
        {marks.map(
          ({ key, kind, bar, from_ms, to_ms, says }) =>
            kind === 'clash' && (
              <rect
                key={key}
                className="clash"
                x={scale.x(from_ms)}
                width={Math.max(scale.x(to_ms) - scale.x(from_ms), 3)}
                y={known(place.get(known(bar).row)) * ROW_H + 4}
                height={ROW_H - 8}
              >
                <title>{`${names.get(known(bar).layer)} ${propertyNamed(known(bar).property).label} ${says}`}</title>
              </rect>
            ),
        )}
      </svg>
    </div>
  );
}

/** Pulls one after another, each from where the one before it has left the bars; steps of a held key are added up. */
class Pulls {
  private waiting: { keys: readonly string[]; pull: Pull }[] = [];
  private running: Promise<void> | null = null;

  add(keys: readonly string[], { part, by_ms, alone }: Pull): Promise<void> {
    const last = this.waiting.at(-1);
    if (last && last.pull.part === part && last.pull.alone === alone && last.keys.join() === keys.join())
      last.pull.by_ms += by_ms;
    else this.waiting.push({ keys, pull: { part, by_ms, alone } });
    this.running ??= this.run().finally(() => (this.running = null));
    return this.running;
  }

  private async run(): Promise<void> {
    for (let next = this.waiting.shift(); next; next = this.waiting.shift()) {
      const { keys, pull } = next;
      try {
        const bench = useBench.getState();
        const bars = barsOf(bench.run, bench.readings).filter((bar) => keys.includes(bar.key));
        const edit = await moveBars(bench, bars, pull);
        await stepped(() => attempt(edit));
      } catch (error) {
        sayFault(error);
      }
    }
  }
}

/** The label of each layer that has a row. */
function namesOf(rows: readonly RowKey[]): ReadonlyMap<string, string> {
  const piece = useBench.getState().document;
  return new Map([...new Set(rows.map((row) => rowOf(row)[0]))].map((layer) => [layer, labelOf(piece, layer)]));
}

const RowNames = memo(function RowNames({
  rows,
  view,
  names,
}: {
  rows: readonly RowKey[];
  view: Props['shown'];
  names: ReadonlyMap<string, string>;
}) {
  return (
    <ul className="row-names" aria-label="Rows" style={{ paddingTop: view.from * ROW_H }}>
      {rows.slice(view.from, view.to).map((row, at) => {
        const [layer, property] = rowOf(row);
        const i = view.from + at;
        const first = i === 0 || rowOf(known(rows[i - 1]))[0] !== layer;
        return (
          <li key={row}>
            <strong>{first ? names.get(layer) : ''}</strong>
            <span className="quiet">{propertyNamed(property).label}</span>
          </li>
        );
      })}
    </ul>
  );
});

/** What starts with, after or before the end of another: a dotted line from there. */
function Links({
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
    <g className="links">
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
