import { Segmented } from 'antd';
import { memo, useCallback, useMemo, useRef, useState, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Layer, Pose } from '../../../api/answers';
import { round } from '../../../shared/text/sums';
import { chainTo, cornersOf, matrixOf, type Point } from '../../../shared/geometry/matrix';
import { pictureOf, PoseView, type Scene } from '../../player';
import { attempt, choose, namedOf, useBench } from '../bench';
import { setValues, type Scope } from '../edits';
import { Ghosts } from './Ghosts';
import { fit, useSize } from './useSize';

interface Drag {
  id: string;
  start: Point;
  /** px of the layer's surroundings, moved so far */
  by: Point;
  moved: boolean;
}

const NONE: readonly Layer[] = [];
const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** The pose that is being edited. */
export function PoseStage() {
  const picture = useBench(useShallow((b) => pictureOf(b.document!)));
  const stateId = useBench((b) => b.state);
  const chosen = useBench((b) => b.layer);
  const scope = useBench((b) => b.scope);
  const pose = useBench((b) => b.poses[stateId])!;
  const states = useBench(useShallow((b) => b.document!.states.map((s) => `${s.id} ${s.name}`))).map(namedOf);
  const { ref, size } = useSize<HTMLDivElement>();
  const scene = useRef<Scene | null>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const zoom = fit(size, picture);
  const index = states.findIndex((s) => s.id === stateId);
  const layers = picture.layers ?? NONE;
  const onScene = useCallback((fresh: Scene) => void (scene.current = fresh), []);

  const moveBy = (id: string, [dx, dy]: Point) => {
    const look = pose[id]!;
    return attempt(setValues(useBench.getState().document!, stateId, id, { x: round(Number(look.x) + dx), y: round(Number(look.y) + dy) }, scope));
  };

  const down = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0 || !(event.target as Element).closest('.stage-piece')) return;
    const id = caughtAt(event, layers, chosen, false);
    choose({ layer: id, ...(id ? { transition: null } : {}) });
    ref.current!.focus({ preventScroll: true });
    if (!id) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setDrag({ id, start: [event.clientX, event.clientY], by: [0, 0], moved: false });
  };
  const move = (event: PointerEvent) => {
    if (!drag) return;
    const parent = matrixOf(chainTo(layers, drag.id), pose, true).inverse();
    const [sx, sy] = [(event.clientX - drag.start[0]) / zoom, (event.clientY - drag.start[1]) / zoom];
    const by: Point = [Math.round(parent.a * sx + parent.c * sy), Math.round(parent.b * sx + parent.d * sy)];
    if (event.shiftKey) by[Math.abs(by[0]) > Math.abs(by[1]) ? 1 : 0] = 0;
    if (by[0] === drag.by[0] && by[1] === drag.by[1]) return;
    setDrag({ ...drag, by, moved: true });
    preview(by, drag.id);
  };
  const preview = ([dx, dy]: Point, id: string) => {
    const shown = scene.current?.shown.get(id);
    if (!shown) return;
    const look = pose[id]!;
    Object.assign(shown.look, { x: Number(look.x) + dx, y: Number(look.y) + dy });
    for (const write of scene.current!.writersOf(shown, ['x', 'y'])) write(shown, shown.look);
  };
  const up = async () => {
    if (!drag) return;
    setDrag(null);
    if (drag.moved && !(await moveBy(drag.id, drag.by))) preview([0, 0], drag.id);
  };
  const onKey = (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow || !chosen || event.target !== event.currentTarget) return;
    event.preventDefault();
    const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    void moveBy(chosen, [arrow[0] * size, arrow[1] * size]);
  };

  const chain = chosen ? chainTo(layers, chosen) : [];
  const moved = drag && chosen ? withMoved(pose, drag) : pose;
  const corners = chain.length && chain.every((l) => moved[l.id]) ? cornersOf(chain, moved) : [];
  const previous = states[index - 1];
  const before = useBench((b) => (previous ? b.poses[previous.id] : undefined));
  const ghosts = useMemo(() => before && { layers, pose, before, zoom }, [layers, pose, before, zoom]);
  return (
    <section
      ref={ref}
      className="stage"
      tabIndex={0}
      aria-label={`Pose ${states[index]!.name}; arrow keys move the chosen layer`}
      data-stage="pose"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => void up()}
      onDoubleClick={(event) => choose({ layer: caughtAt(event, layers, chosen, true) })}
      onKeyDown={onKey}
    >
      <div className="stage-label">
        <strong>{states[index]!.name}</strong> posing · state {index + 1} of {states.length}
      </div>
      <div className="stage-piece" style={{ width: picture.width * zoom, height: picture.height * zoom }}>
        <PoseView piece={picture} pose={pose} zoom={zoom} onScene={onScene} />
        {ghosts && <Ghosts {...ghosts} />}
        <Frame corners={corners} zoom={zoom} />
      </div>
      <div className="stage-foot" onPointerDown={(e) => e.stopPropagation()}>
        <ScopeSwitch />
        {previous && <span className="quiet">dashed: where {previous.name} left them</span>}
      </div>
    </section>
  );
}

const ScopeSwitch = memo(function ScopeSwitch() {
  const scope = useBench((b) => b.scope);
  return (
    <Segmented<Scope>
      size="small"
      aria-label="What an edit changes"
      value={scope}
      onChange={(value) => choose({ scope: value })}
      options={[
        { value: 'state', label: 'Edits this state' },
        { value: 'base', label: 'Edits the base' },
      ]}
    />
  );
});

/** The layer under the pointer: the outermost group first, one level deeper with each double click. */
function caughtAt(event: MouseEvent, layers: readonly Layer[], chosen: string | null, deeper: boolean): string | null {
  const hit = document.elementsFromPoint(event.clientX, event.clientY).find((e) => e.closest('[data-layer]:not([data-locked])') && e.closest('[data-stage=pose]') && !e.closest('.ghosts'));
  const id = hit?.closest('[data-layer]')?.getAttribute('data-layer');
  if (!id) return null;
  const chain = chainTo(layers, id).map((l) => l.id);
  const depth = chosen ? chain.indexOf(chosen) : -1;
  // A layer that is chosen already stays so, to be dragged.
  if (depth >= 0) return deeper ? (chain[depth + 1] ?? id) : chosen;
  return chain[0]!;
}

function withMoved(pose: Pose, { id, by }: Drag): Pose {
  const look = pose[id]!;
  return { ...pose, [id]: { ...look, x: Number(look.x) + by[0], y: Number(look.y) + by[1] } };
}

function Frame({ corners, zoom }: { corners: Point[]; zoom: number }) {
  if (!corners.length) return null;
  const at = corners.map(([x, y]) => [x * zoom, y * zoom] as const);
  return (
    <svg className="chosen-frame" aria-hidden="true">
      <polygon points={at.map((p) => p.join(',')).join(' ')} />
      {at.map(([x, y], i) => (
        <circle key={i} cx={x} cy={y} r={4} />
      ))}
    </svg>
  );
}
