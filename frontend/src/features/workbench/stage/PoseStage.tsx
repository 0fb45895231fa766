import { Segmented } from 'antd';
import { memo, useCallback, useMemo, useRef, useState, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Layer } from '../../../api/answers';
import { round } from '../../../shared/text/sums';
import { chainTo, cornersOf, matrixOf, type Point } from '../../../shared/geometry/matrix';
import { pictureOf, PoseView, type Scene } from '../../player';
import { attempt, choose, namedOf, useBench } from '../bench';
import { setValues, type Scope } from '../edits';
import { Frame, gripOf } from './Frame';
import { dragged, linesBeside, type Dragged, type Held, type Lines, type Values } from './gestures';
import { Ghosts } from './Ghosts';
import { fit, useSize } from './useSize';

interface Drag extends Dragged {
  held: Held;
  lines: Lines;
  moved: boolean;
  /** Let go; shown so until the edit is made. */
  released: boolean;
}

/** px on the screen within which edges snap */
const REACH = 5;
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
  const sheet = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const zoom = fit(size, picture);
  const index = states.findIndex((s) => s.id === stateId);
  const layers = picture.layers ?? NONE;
  const onScene = useCallback((fresh: Scene) => void (scene.current = fresh), []);

  const moveBy = (id: string, [dx, dy]: Point) => {
    const look = pose[id]!;
    return attempt(setValues(useBench.getState().document!, stateId, id, { x: round(Number(look.x) + dx), y: round(Number(look.y) + dy) }, scope));
  };

  const pointAt = (event: PointerEvent): Point => {
    const { left, top } = sheet.current!.getBoundingClientRect();
    return [(event.clientX - left) / zoom, (event.clientY - top) / zoom];
  };
  const down = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0 || !(event.target as Element).closest('.stage-piece')) return;
    const grip = (event.target as Element).closest('[data-grip]')?.getAttribute('data-grip');
    const id = grip && chosen ? chosen : caughtAt(event, layers, chosen, false);
    choose({ layer: id, ...(id ? { transition: null } : {}) });
    ref.current!.focus({ preventScroll: true });
    if (!id) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const chain = chainTo(layers, id);
    const held: Held = {
      id,
      kind: chain.at(-1)!.kind,
      grip: grip ? gripOf(grip) : 'move',
      look: pose[id]!,
      parent: matrixOf(chain, pose, true),
      from: pointAt(event),
      corners: cornersOf(chain, pose),
    };
    setDrag({ held, lines: linesBeside(layers, id, pose, picture), values: {}, guides: {}, moved: false, released: false });
  };
  const move = (event: PointerEvent) => {
    if (!drag || drag.released) return;
    const next = dragged(drag.held, pointAt(event), event, drag.lines, REACH / zoom);
    const { look, id } = drag.held;
    const changed = Object.entries(next.values).some(([name, value]) => (drag.values[name] ?? look[name]) !== value);
    if (!changed) return;
    setDrag({ ...drag, ...next, moved: true });
    preview(id, next.values);
  };
  const preview = (id: string, values: Values) => {
    const shown = scene.current?.shown.get(id);
    if (!shown) return;
    Object.assign(shown.look, values);
    for (const write of scene.current!.writersOf(shown, Object.keys(values))) write(shown, shown.look);
  };
  /** Makes the edit, unless the drag was taken away: `given` up. */
  const up = async (given = false) => {
    if (!drag || drag.released) return;
    const { held, values } = drag;
    const before = Object.fromEntries(Object.keys(values).map((name) => [name, Number(held.look[name])]));
    const settle = () => setDrag((now) => (now?.held === held ? null : now));
    if (!drag.moved || given) {
      settle();
      return preview(held.id, before);
    }
    setDrag({ ...drag, guides: {}, released: true });
    const changed = Object.fromEntries(Object.entries(values).filter(([name, value]) => held.look[name] !== value));
    const done = await attempt(setValues(useBench.getState().document!, stateId, held.id, changed, scope));
    settle();
    if (!done) preview(held.id, before);
  };
  const onKey = (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow || !chosen || event.target !== event.currentTarget) return;
    event.preventDefault();
    const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    void moveBy(chosen, [arrow[0] * size, arrow[1] * size]);
  };

  const chain = chosen ? chainTo(layers, chosen) : [];
  const moved = drag ? { ...pose, [drag.held.id]: { ...pose[drag.held.id]!, ...drag.values } } : pose;
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
      onPointerCancel={() => void up(true)}
      onDoubleClick={(event) => choose({ layer: caughtAt(event, layers, chosen, true) })}
      onKeyDown={onKey}
    >
      <div className="stage-label">
        <strong>{states[index]!.name}</strong> posing · state {index + 1} of {states.length}
      </div>
      <div ref={sheet} className="stage-piece" style={{ width: picture.width * zoom, height: picture.height * zoom }}>
        <PoseView piece={picture} pose={pose} zoom={zoom} onScene={onScene} />
        {ghosts && <Ghosts {...ghosts} />}
        <Frame corners={corners} zoom={zoom} guides={drag?.guides ?? {}} size={picture} />
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
