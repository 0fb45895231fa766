import type { KeyboardEvent } from 'react';
import type { Point } from '../../../shared/geometry/matrix';
import { mapPath, readPath, splitAfter, writePath, type Knot, type Subpath } from '../../../shared/geometry/path';
import { attempt, useBench } from '../bench';
import { setValues } from '../edits';
import { placed } from '../tree';
import { onScreen, ownMatrix, useHandles, type OverLayer } from './useHandles';

type Part = 'at' | 'into' | 'out';
type Place = [subpath: number, knot: number, part: Part];

const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** The points of a path and their handles, each to be dragged or moved by keys. */
export function Points(over: OverLayer) {
  const { id, pose, zoom } = over;
  const look = pose[id]!;
  const name = placed(useBench.getState().document!, id)!.layer.name;
  const matrix = ownMatrix(over).scale(Number(look.width) / Number(look.view_width), Number(look.height) / Number(look.view_height));
  const commit = (subpaths: Subpath[], what: string) => {
    const { document: piece, state, scope } = useBench.getState();
    const edit = setValues(piece!, state, id, { path: writePath(subpaths) }, scope);
    return attempt({ ...edit, label: `${what} of ${name}` });
  };
  const { shown: drawn, drag } = useHandles<Place, Subpath[]>({
    over,
    matrix,
    value: readPath(String(look.path)),
    written: (subpaths) => ['path', writePath(subpaths)],
    // On whole px of the path, as it was drawn; Ctrl leaves them.
    pull: (subpaths, place, [x, y], event) => moved(subpaths, place, event.ctrlKey ? [x, y] : [Math.round(x), Math.round(y)], event.altKey),
    commit: (subpaths) => commit(subpaths, 'Point'),
  });
  const shown = mapPath(drawn, (at) => onScreen(matrix, zoom, at));
  const onKey = (event: KeyboardEvent, [s, k]: Place) => {
    const arrow = ARROWS[event.key];
    const knots = drawn[s]!.knots;
    if (arrow) {
      const step = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
      const [x, y] = knots[k]!.at;
      void commit(moved(drawn, [s, k, 'at'], [x + arrow[0] * step, y + arrow[1] * step], false), 'Point');
    } else if (event.key === 'Delete' && knots.length > 2) {
      void commit(drawn.map((subpath, i) => (i === s ? { ...subpath, knots: knots.filter((_, j) => j !== k) } : subpath)), 'Point removed');
    } else if (event.key === 'Enter') {
      void commit(changed(drawn, s, k, bent(drawn[s]!, k)), 'Corner');
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const add = (s: number, k: number) => void commit(drawn.map((subpath, i) => (i === s ? splitAfter(subpath, k) : subpath)), 'Point added');

  return (
    <svg className="pen points" aria-label={`Points of ${name}`}>
      {shown.map(({ knots, closed }, s) => (
        <g key={s}>
          {knots.map((knot, k) => {
            const next = knots[k + 1] ?? (closed ? knots[0] : undefined);
            return next && <path key={k} className="way" d={writePath([{ knots: [knot, next], closed: false }])} onDoubleClick={() => add(s, k)}><title>Double-click adds a point</title></path>;
          })}
          {knots.map(({ at, into, out }, k) => (
            <g key={k}>
              {([['into', into], ['out', out]] as const).map(([part, handle]) =>
                handle && (handle[0] !== at[0] || handle[1] !== at[1]) ? (
                  <g key={part}>
                    <line x1={at[0]} y1={at[1]} x2={handle[0]} y2={handle[1]} />
                    <circle className="handle" cx={handle[0]} cy={handle[1]} r={3} {...drag([s, k, part])} />
                  </g>
                ) : null,
              )}
              <rect
                x={at[0] - 4}
                y={at[1] - 4}
                width={8}
                height={8}
                tabIndex={0}
                role="button"
                data-point={`${s},${k}`}
                aria-label={`Point ${k + 1}; arrow keys move it, Enter bends or straightens it, Delete removes it`}
                {...drag([s, k, 'at'])}
                onDoubleClick={() => void commit(changed(drawn, s, k, bent(drawn[s]!, k)), 'Corner')}
                onKeyDown={(event) => onKey(event, [s, k, 'at'])}
              />
            </g>
          ))}
        </g>
      ))}
    </svg>
  );
}

const changed = (subpaths: readonly Subpath[], s: number, k: number, knot: Knot): Subpath[] =>
  subpaths.map((subpath, i) => (i === s ? { ...subpath, knots: subpath.knots.map((old, j) => (j === k ? knot : old)) } : subpath));

/** A point takes its handles along; a handle takes the one across with it, unless `alone`. */
function moved(subpaths: readonly Subpath[], [s, k, part]: Place, to: Point, alone: boolean): Subpath[] {
  const knot = subpaths[s]!.knots[k]!;
  if (part === 'at') {
    const by: Point = [to[0] - knot.at[0], to[1] - knot.at[1]];
    const along = (handle: Point | null): Point | null => handle && [handle[0] + by[0], handle[1] + by[1]];
    return changed(subpaths, s, k, { at: to, into: along(knot.into), out: along(knot.out) });
  }
  const across = part === 'into' ? 'out' : 'into';
  const opposite = knot[across];
  const mirrored: Point | null = opposite && !alone ? [2 * knot.at[0] - to[0], 2 * knot.at[1] - to[1]] : opposite;
  return changed(subpaths, s, k, { ...knot, [part]: to, [across]: mirrored });
}

/** A corner gets handles along the way from its neighbour before to the one after; a bend loses them. */
function bent({ knots }: Subpath, k: number): Knot {
  const knot = knots[k]!;
  if (knot.into || knot.out) return { at: knot.at, into: null, out: null };
  const before = knots[k - 1] ?? knots.at(-1)!;
  const after = knots[k + 1] ?? knots[0]!;
  const by: Point = [(after.at[0] - before.at[0]) / 6, (after.at[1] - before.at[1]) / 6];
  return { at: knot.at, into: [knot.at[0] - by[0], knot.at[1] - by[1]], out: [knot.at[0] + by[0], knot.at[1] + by[1]] };
}
