import type { KeyboardEvent } from 'react';
import type { Piece } from '../../../api/contract';
import type { Point } from '../../../shared/geometry/matrix';
import { mapPath, readPath, splitAfter, writePath, type Knot, type Subpath } from '../../../shared/geometry/path';
import { round } from '../../../shared/text/sums';
import { stepped } from '../../../shared/ui/hands';
import { attempt, attemptNext, reaches, useBench } from '../bench';
import { setValues, valueOf } from '../edits';
import { placed } from '../tree';
import { onScreen, ownMatrix, useHandles, type OverLayer } from './useHandles';
import { firstOf, known, lastOf } from '../../../shared/known';
import { textOf } from '../../../shared/text/values';

type Part = 'at' | 'into' | 'out';
type Place = [subpath: number, knot: number, part: Part];

const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** The points of a path and their handles, each to be dragged or moved by keys. */
export function Points(over: OverLayer) {
  const { id, pose, zoom } = over;
  const look = known(pose[id]);
  const name = placed(useBench.getState().document, id).layer.name;
  const matrix = ownMatrix(over).scale(
    Number(look.width) / Number(look.view_width),
    Number(look.height) / Number(look.view_height),
  );
  const commit = (subpaths: Subpath[], what: string) => {
    const bench = useBench.getState();
    const { document: piece, state } = bench;
    const edit = setValues(piece, state, id, { path: writePath(subpaths) }, reaches(bench, [id]));
    return attempt({ ...edit, label: `${what} of ${name}` });
  };
  /** In px and axes of the piece, from where the steps that are still on their way will have put it. */
  const nudge = ([s, k, part]: Place, [dx, dy]: Point, alone: boolean) => {
    const bench = useBench.getState();
    const scope = reaches(bench, [id]);
    const inverse = matrix.inverse();
    const by: Point = [inverse.a * dx + inverse.c * dy, inverse.b * dx + inverse.d * dy];
    const step = (piece: Piece) => {
      const subpaths = readPath(textOf(valueOf(piece, bench.state, id, 'path', scope)));
      const from = subpaths[s]?.knots[k]?.[part];
      const after = from
        ? moved(subpaths, [s, k, part], [round(from[0] + by[0]), round(from[1] + by[1])], alone)
        : subpaths;
      return { ...setValues(piece, bench.state, id, { path: writePath(after) }, scope), label: `Point of ${name}` };
    };
    void stepped(() => attemptNext(step));
  };
  const { shown: drawn, drag } = useHandles<Place, Subpath[]>({
    over,
    matrix,
    value: readPath(textOf(look.path)),
    written: (subpaths) => ['path', writePath(subpaths)],
    // On whole px of the path, as it was drawn; Ctrl leaves them.
    pull: (subpaths, place, [x, y], event) =>
      moved(subpaths, place, event.ctrlKey ? [x, y] : [Math.round(x), Math.round(y)], event.altKey),
    commit: (subpaths) => commit(subpaths, 'Point'),
  });
  const shown = mapPath(drawn, (at) => onScreen(matrix, zoom, at));
  const onKey = (event: KeyboardEvent, [s, k, part]: Place) => {
    const arrow = ARROWS[event.key];
    const knots = known(drawn[s]).knots;
    if (arrow) {
      const step = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
      nudge([s, k, part], [arrow[0] * step, arrow[1] * step], event.altKey && part !== 'at');
    } else if (event.key === 'Delete' && part !== 'at') {
      void commit(changed(drawn, s, k, { ...known(knots[k]), [part]: null }), 'Handle removed');
    } else if (event.key === 'Delete') {
      // What is in hand is deleted, and never the layer around it.
      if (knots.length > 2)
        void commit(
          drawn.map((subpath, i) => (i === s ? { ...subpath, knots: knots.filter((_, j) => j !== k) } : subpath)),
          'Point removed',
        );
    } else if (event.key === 'Enter') {
      void commit(changed(drawn, s, k, bent(known(drawn[s]), k)), 'Corner');
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const add = (s: number, k: number) =>
    void commit(
      drawn.map((subpath, i) => (i === s ? splitAfter(subpath, k) : subpath)),
      'Point added',
    );

  return (
    <svg className="pen points" aria-label={`Points of ${name}`}>
      {shown.map(({ knots, closed }, s) => (
        <g key={s}>
          {knots.map((knot, k) => {
            const next = knots[k + 1] ?? (closed ? knots[0] : undefined);
            return (
              next && (
                <path
                  key={k}
                  className="way"
                  d={writePath([{ knots: [knot, next], closed: false }])}
                  onPointerDown={(event) => event.stopPropagation()}
                  onDoubleClick={(event) => {
                    event.stopPropagation();
                    add(s, k);
                  }}
                >
                  <title>Double-click adds a point</title>
                </path>
              )
            );
          })}
          {knots.map(({ at, into, out }, k) => (
            <g key={k}>
              {(
                [
                  ['into', into],
                  ['out', out],
                ] as const
              ).map(([part, handle]) =>
                handle && (handle[0] !== at[0] || handle[1] !== at[1]) ? (
                  <g key={part}>
                    <line x1={at[0]} y1={at[1]} x2={handle[0]} y2={handle[1]} />
                    <circle
                      className="handle"
                      cx={handle[0]}
                      cy={handle[1]}
                      r={3}
                      tabIndex={0}
                      role="button"
                      aria-label={`Handle of point ${k + 1}; arrow keys move it, Delete removes it`}
                      {...drag([s, k, part])}
                      onKeyDown={(event) => onKey(event, [s, k, part])}
                    />
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
                onDoubleClick={(event) => {
                  event.stopPropagation();
                  void commit(changed(drawn, s, k, bent(known(drawn[s]), k)), 'Corner');
                }}
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
  subpaths.map((subpath, i) =>
    i === s ? { ...subpath, knots: subpath.knots.map((old, j) => (j === k ? knot : old)) } : subpath,
  );

/** A point takes its handles along; a handle takes the one across with it, unless `alone`. */
function moved(subpaths: readonly Subpath[], [s, k, part]: Place, to: Point, alone: boolean): Subpath[] {
  const knot = known(known(subpaths[s]).knots[k]);
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
  const knot = known(knots[k]);
  if (knot.into || knot.out) return { at: knot.at, into: null, out: null };
  const before = knots[k - 1] ?? lastOf(knots);
  const after = knots[k + 1] ?? firstOf(knots);
  const by: Point = [(after.at[0] - before.at[0]) / 6, (after.at[1] - before.at[1]) / 6];
  return { at: knot.at, into: [knot.at[0] - by[0], knot.at[1] - by[1]], out: [knot.at[0] + by[0], knot.at[1] + by[1]] };
}
