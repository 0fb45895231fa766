import {
  memo,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
} from 'react';
import { useShallow } from 'zustand/react/shallow';
import { api } from '../../../api/client';
import type { Layer, Pose } from '../../../api/contract';
import { chainTo, cornersOf, type Point } from '../../../shared/geometry/matrix';
import { Choice } from '../../../shared/ui/Choice';
import { useHeld } from '../../../shared/ui/useHeld';
import { pictureOf, PoseView, type Scene } from '../../player';
import { choose, chooseAlso, chooseLayers, chosenLayers, namedOf, sayFault, useBench } from '../bench';
import { around, boxOf, type Box, type Scope } from '../edits';
import { nudge } from '../looks';
import { useStageKeys } from '../useKeys';
import { look, useView } from '../view';
import { Frame, gripOf } from './Frame';
import { Ghosts } from './Ghosts';
import { GradientHandles } from './GradientHandles';
import { MotionPath } from './MotionPath';
import { Pen } from './Pen';
import { Points } from './Points';
import { GhostSwitch, StageTools } from './StageTools';
import { touched, useDrag } from './useDrag';
import { useSize } from './useSize';
import './stage.css';
import { useZoom } from './useZoom';
import { firstOf, known, lastOf } from '../../../shared/known';

const NONE: readonly Layer[] = [];
const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** The pose that is being edited. */
export function PoseStage() {
  const picture = useBench(useShallow((b) => pictureOf(b.document)));
  const stateId = useBench((b) => b.state);
  const chosen = useBench(useShallow(chosenLayers));
  const pose = known(useBench((b) => b.poses[stateId]));
  const states = useBench(useShallow((b) => b.document.states.map((s) => `${s.id} ${s.name}`))).map(namedOf);
  const { tool, points, ghosts, path } = useView();
  const { ref, size } = useSize<HTMLDivElement>();
  const [scene, setScene] = useState<Scene | null>(null);
  const sheet = useRef<HTMLDivElement>(null);
  const zooming = useZoom(ref, sheet, size, picture);
  const { zoom, offset } = zooming;
  const layers = picture.layers ?? NONE;
  const { drag, start, move, end } = useDrag({ layers, pose, piece: picture, zoom, scene });
  const letGo = useRef<string | null>(null);
  const { shown: area, held: drawn, hold: setArea } = useHeld<{ from: Point; to: Point }>();

  // Read once and kept: to read it at each move would make the browser lay out the page in the middle of it.
  const corner = useRef<{ left: number; top: number } | null>(null);
  useLayoutEffect(() => {
    corner.current = null;
  }, [zooming, size, picture]);
  const pointAt = (event: PointerEvent | MouseEvent): Point => {
    const { left, top } = (corner.current ??= known(sheet.current).getBoundingClientRect());
    return [(event.clientX - left) / zoom, (event.clientY - top) / zoom];
  };
  const down = (event: PointerEvent<HTMLElement>) => {
    known(ref.current).focus({ preventScroll: true });
    corner.current = null;
    if (event.button === 1) return event.currentTarget.setPointerCapture(event.pointerId);
    if (event.button !== 0) return;
    if (tool === 'colour') return void takeColourAt(stateId, pointAt(event));
    const grip = (event.target as Element).closest('[data-grip]')?.getAttribute('data-grip');
    const id = grip ? lastOf(chosen) : caughtAt(event, layers, pose, chosen, false);
    event.currentTarget.setPointerCapture(event.pointerId);
    if (id !== points) look({ points: null });
    if (!id) {
      if (!event.shiftKey) choose({ layer: null });
      return setArea({ from: pointAt(event), to: pointAt(event) });
    }
    const held = chosen.includes(id) ? chosen : event.shiftKey ? [...chosen, id] : [id];
    // Shift let go in place takes a layer out again; pulled, it keeps to one axis.
    letGo.current = event.shiftKey && !grip && chosen.includes(id) ? id : null;
    if (!chosen.includes(id)) chooseLayers(held);
    start(outermost(layers, held), grip ? gripOf(grip) : 'move', pointAt(event), event.altKey);
  };
  const onMove = (event: PointerEvent) => {
    if (event.buttons === 4) zooming.pan(event.movementX, event.movementY);
    else if (drawn()) setArea({ ...known(drawn()), to: pointAt(event) });
    else move(pointAt(event), event);
  };
  const up = (event: PointerEvent, given = false) => {
    const area = drawn();
    if (!area) {
      const out = letGo.current;
      return void end(given).then((moved) => !moved && out && chooseAlso(out));
    }
    setArea(null);
    const box = boxBetween(area.from, area.to);
    if (given || Math.hypot(box.right - box.left, box.bottom - box.top) * zoom < 4) return;
    const met = touched(layers, pose, box);
    chooseLayers(event.shiftKey ? [...new Set([...chosen, ...met])] : met);
  };
  const deeper = (event: MouseEvent) => {
    const id = caughtAt(event, layers, pose, chosen, true);
    const isPath = id && id === chosen.at(-1) && chainTo(layers, id).at(-1)?.kind === 'path';
    if (isPath) look({ points: id });
    else if (id) choose({ layer: id });
  };
  const onKey = (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow || !chosen.length || event.target !== event.currentTarget) return;
    event.preventDefault();
    const step = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    void nudge(outermost(layers, chosen), arrow[0] * step, arrow[1] * step);
  };
  const toChosen = useMemo(
    () => (chosen.length ? () => zooming.toBox(around(chosen.map((id) => boxOf(layers, pose, id)))) : null),
    [chosen, zooming, layers, pose],
  );
  useStageKeys(zooming, toChosen);

  const index = states.findIndex((s) => s.id === stateId);
  const [previous, next] = [states[index - 1], states[index + 1]];
  const neighbour = ghosts === 'before' ? previous : ghosts === 'after' ? next : undefined;
  const there = useBench((b) => (neighbour ? b.poses[neighbour.id] : undefined));
  const outlines = useMemo(() => there && { layers, pose, before: there, zoom }, [layers, pose, there, zoom]);
  const shown = useMemo(
    () =>
      drag
        ? {
            ...pose,
            ...Object.fromEntries(
              Object.entries(drag.looks).map(([id, values]) => [id, { ...known(pose[id]), ...values }]),
            ),
          }
        : pose,
    [drag, pose],
  );
  const only = chosen.length === 1 ? firstOf(chosen) : null;
  const over = only && shown[only] ? { id: only, layers, pose: shown, zoom, scene } : null;
  const hint = hintOf(tool, points !== null);
  const kind = only && chainTo(layers, only).at(-1)?.kind;
  return (
    // A drawing area: it takes the keys that move what is chosen.
    // eslint-disable-next-line jsx-a11y-x/no-noninteractive-element-interactions
    <section
      ref={ref}
      className={`stage tool-${tool}`}
      // eslint-disable-next-line jsx-a11y-x/no-noninteractive-tabindex
      tabIndex={0}
      aria-label={`Pose ${known(states[index]).name}; arrow keys move what is chosen`}
      data-stage="pose"
      onPointerDown={down}
      onPointerMove={onMove}
      onPointerUp={(event) => up(event)}
      onPointerCancel={(event) => up(event, true)}
      onDoubleClick={deeper}
      onKeyDown={onKey}
    >
      <div
        ref={sheet}
        className="stage-piece"
        style={{
          width: picture.width * zoom,
          height: picture.height * zoom,
          transform: `translate(${offset.x}px,${offset.y}px)`,
        }}
      >
        <PoseView piece={picture} pose={pose} zoom={zoom} onScene={setScene} />
        {outlines && <Ghosts {...outlines} />}
        {path && only && <MotionPath id={only} zoom={zoom} />}
        {chosen.map((id) => {
          const chain = chainTo(layers, id);
          const held = chain.length > 0 && chain.every((l) => shown[l.id]);
          return (
            held &&
            id !== points && (
              <Frame
                key={id}
                corners={cornersOf(chain, shown)}
                zoom={zoom}
                guides={id === chosen.at(-1) ? (drag?.guides ?? {}) : {}}
                size={picture}
                grips={chosen.length === 1}
              />
            )
          );
        })}
        {over && points === only && kind === 'path' && <Points {...over} pointAt={pointAt} />}
        {over && !points && !drag && typeof known(shown[known(only)]).fill === 'object' && (
          <GradientHandles {...over} pointAt={pointAt} />
        )}
        {(tool === 'pen' || tool === 'line') && <Pen zoom={zoom} pointAt={pointAt} />}
        {area && <Area {...boxBetween(area.from, area.to)} zoom={zoom} />}
      </div>
      <div className="stage-label">
        <strong>{known(states[index]).name}</strong>{' '}
        <span>
          {index + 1} of {states.length}
        </span>
      </div>
      <StageTools zoom={zooming} toChosen={toChosen} />
      <div className="stage-foot" onPointerDown={(e) => e.stopPropagation()}>
        <ScopeSwitch />
        {hint ? (
          <span className="quiet">{hint}</span>
        ) : (
          <GhostSwitch before={previous?.name} after={next?.name} canTrace={only !== null} />
        )}
      </div>
    </section>
  );
}

function hintOf(tool: string, points: boolean): string {
  if (tool === 'pen') return 'click, or drag a bend; Enter ends';
  if (tool === 'line') return 'drag; Shift: level or upright';
  if (tool === 'colour') return 'click on a colour';
  if (points) return 'Enter bends, Delete removes';
  return '';
}

const Area = ({ left, top, right, bottom, zoom }: Box & { zoom: number }) => (
  <div
    className="area"
    style={{ left: left * zoom, top: top * zoom, width: (right - left) * zoom, height: (bottom - top) * zoom }}
  />
);

const boxBetween = ([ax, ay]: Point, [bx, by]: Point): Box => ({
  left: Math.min(ax, bx),
  top: Math.min(ay, by),
  right: Math.max(ax, bx),
  bottom: Math.max(ay, by),
});

async function takeColourAt(state: string, [x, y]: Point): Promise<void> {
  const { onColour } = useView.getState();
  look({ tool: 'choose', onColour: null });
  try {
    const { colour } = await api.colourAt(useBench.getState().id, state, x, y);
    if (colour !== 'none') onColour?.(colour);
  } catch (error) {
    sayFault(error);
  }
}

const ScopeSwitch = memo(function ScopeSwitch() {
  const scope = useBench((b) => b.scope);
  return (
    <Choice<Scope>
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

/** Without what lies inside another that is chosen too: it moves along with that. */
function outermost(layers: readonly Layer[], ids: readonly string[]): string[] {
  return ids.filter(
    (id) =>
      !chainTo(layers, id)
        .slice(0, -1)
        .some((outer) => ids.includes(outer.id)),
  );
}

/** The layer under the pointer: the outermost group first, one level deeper with each double click. */
function caughtAt(
  event: MouseEvent,
  layers: readonly Layer[],
  pose: Pose,
  chosen: readonly string[],
  deeper: boolean,
): string | null {
  const hits = document
    .elementsFromPoint(event.clientX, event.clientY)
    .filter((e) => e.closest('[data-stage=pose]') && !e.closest('.ghosts'));
  const ids = hits
    .map((e) => e.closest('[data-layer]')?.getAttribute('data-layer'))
    .filter((id) => id !== null && id !== undefined);
  // What cannot be seen is not caught, nor what is locked.
  const met = ids.filter((id) =>
    chainTo(layers, id).every((l) => !l.locked && Number(pose[l.id]?.opacity) * Number(pose[l.id]?.visible) > 0),
  );
  // A layer that was chosen in the list is held, though another lies above it.
  const id = (!deeper && met.find((found) => chainTo(layers, found).some((l) => chosen.includes(l.id)))) || met[0];
  if (!id) return null;
  const chain = chainTo(layers, id).map((l) => l.id);
  const depth = chain.findIndex((link) => chosen.includes(link));
  // A layer that is chosen already stays so, to be dragged.
  if (depth >= 0) return deeper ? (chain[depth + 1] ?? id) : known(chain[depth]);
  // What lies beside it in the same group is as near.
  const beside = chain.indexOf(chainTo(layers, chosen.at(-1) ?? '').at(-2)?.id ?? '');
  if (beside >= 0) return known(chain[beside + 1]);
  return firstOf(chain);
}
