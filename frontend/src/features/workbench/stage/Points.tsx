import type { KeyboardEvent } from 'react';
import { area, line } from '../../../shared/drawing/paint';
import { mapPath, writePath, type Knot, type Subpath } from '../../../shared/geometry/path';
import type { Part, Place } from './pointEdits';
import { useView } from '../view';
import { bendChosen, cornerKey } from './pointActions';
import { usePointHands } from './usePointHands';
import { onScreen, type OverLayer } from './useHandles';

type Hands = ReturnType<typeof usePointHands>;

/** The points of a path and their handles, each to be dragged or moved by keys. */
export function Points(over: OverLayer) {
  const hands = usePointHands(over);
  const shown = mapPath(hands.drawn, (at) => onScreen(hands.matrix, over.zoom, at));
  return (
    <svg className="points overlay" aria-label={`Points of ${hands.name}`}>
      {shown.map((subpath, s) => (
        <g key={s}>
          <Segments subpath={subpath} add={(k) => hands.add(s, k)} />
          {subpath.knots.map((knot, k) => (
            <PointGrips key={k} knot={knot} s={s} k={k} hands={hands} />
          ))}
        </g>
      ))}
    </svg>
  );
}

/** The ways between points, each of which takes one more. */
function Segments({ subpath: { knots, closed }, add }: { subpath: Subpath; add: (k: number) => void }) {
  return knots.map((knot, k) => {
    const next = knots[k + 1] ?? (closed ? knots[0] : undefined);
    return (
      next && (
        <path
          key={k}
          className="segment"
          fill="none"
          stroke="transparent"
          strokeWidth={9}
          d={writePath([{ knots: [knot, next], closed: false }])}
          onPointerDown={(event) => event.stopPropagation()}
          onDoubleClick={(event) => {
            event.stopPropagation();
            add(k);
          }}
        >
          <title>Double-click adds a point</title>
        </path>
      )
    );
  });
}

interface GripProps {
  knot: Knot;
  s: number;
  k: number;
  hands: Hands;
}

/** A point and the handles that it has. */
function PointGrips({ knot, s, k, hands: { drag, onKey } }: GripProps) {
  const isChosen = useView((v) => v.corners.includes(cornerKey([s, k])));
  const { at, into, out } = knot;
  const grip = (part: Part) => {
    const place: Place = [s, k, part];
    return { tabIndex: 0, role: 'button', ...drag(place), onKeyDown: (event: KeyboardEvent) => onKey(event, place) };
  };
  return (
    <g>
      {(
        [
          ['into', into],
          ['out', out],
        ] as const
      ).map(([part, handle]) =>
        handle && (handle[0] !== at[0] || handle[1] !== at[1]) ? (
          <g key={part}>
            <line {...line('ink')} x1={at[0]} y1={at[1]} x2={handle[0]} y2={handle[1]} />
            <circle
              {...area('brass', 'ink', 1.4)}
              cx={handle[0]}
              cy={handle[1]}
              r={3}
              aria-label={`Handle of point ${k + 1}; arrow keys move it, Delete removes it`}
              {...grip(part)}
            />
          </g>
        ) : null,
      )}
      <rect
        {...area(isChosen ? 'glass' : 'panel', 'ink', 1.4)}
        x={at[0] - 4}
        y={at[1] - 4}
        width={8}
        height={8}
        data-point={`${s},${k}`}
        aria-label={`Point ${k + 1}; arrow keys move it, Space chooses it besides others, Enter bends or straightens it, Delete removes it`}
        aria-pressed={isChosen}
        {...grip('at')}
        onDoubleClick={(event) => {
          event.stopPropagation();
          void bendChosen([[s, k]]);
        }}
      />
    </g>
  );
}
