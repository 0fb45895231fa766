import { Flex } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Layer, Pose } from '../../../api/contract';
import { PoseView, sheetOf, type Scene } from '../../player';
import { namedOf, useBench } from '../bench';
import { around, boxOf } from '../edits';
import { stage as stageHands } from '../stageHands';
import { useStageKeys } from '../useKeys';
import { useView } from '../view';
import { PointTools } from './PointTools';
import { PoseOverlays } from './PoseOverlays';
import { ScopeSwitch } from './ScopeSwitch';
import { GhostSwitch, StageTools } from './StageTools';
import { shownIn } from './useDrag';
import { usePoseHands } from './usePoseHands';
import { useSize } from './useSize';
import './stage.css';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { placesOf, sectionsOf } from '../edits';
import { useZoom, type Zoom } from './useZoom';
import { known } from '../../../shared/known';

const NONE: readonly Layer[] = [];

/** The pose that is being edited. */
export function PoseStage() {
  const picture = useBench(useShallow((b) => sheetOf(b.document, b.layers)));
  const pose = known(useBench((b) => b.poses[b.state]));
  const { state, previous, next, place } = useNeighbours();
  const tool = useView((v) => v.tool);
  const { ref: stage, size } = useSize<HTMLDivElement>();
  const [scene, setScene] = useState<Scene | null>(null);
  const sheet = useRef<HTMLDivElement>(null);
  const screenHeight = useBench((b) => b.document.height);
  const zooming = useZoom('pose', stage, sheet, size, picture, screenHeight);
  const { zoom, offset } = zooming;
  const layers = useBench((b) => b.document.layers) ?? NONE;
  const { chosen, drag, area, pointAt, hands } = usePoseHands({ stage, sheet, zooming, picture, layers, pose, scene });
  const toChosen = useMemo(
    () => (chosen.length ? () => zooming.toBox(around(chosen.map((id) => boxOf(layers, pose, id)))) : null),
    [chosen, zooming, layers, pose],
  );
  useStageKeys(zooming, toChosen);
  usePreview(scene, pose);
  const shown = useMemo(() => (drag && drag.held.grip !== 'pivot' ? withValues(pose, drag.looks) : pose), [drag, pose]);
  const [width, height] = [picture.width * zoom, picture.height * zoom];
  return (
    // A drawing area: it takes the keys that move what is chosen.
    <section
      ref={stage}
      className={`stage tool-${tool}`}
      // eslint-disable-next-line jsx-a11y-x/no-noninteractive-tabindex
      tabIndex={0}
      aria-label={`Pose ${state.name}; arrow keys move what is chosen`}
      data-stage="pose"
      {...hands}
    >
      <div
        ref={sheet}
        className="stage-piece"
        style={{ width, height, transform: `translate(${offset.x}px,${offset.y}px)` }}
      >
        <PoseView piece={picture} pose={pose} zoom={zoom} onScene={setScene} />
        <PoseOverlays
          {...{ picture, layers, pose, shown, zoom, scene, chosen, drag, area, pointAt }}
          neighbours={{ before: previous?.id, after: next?.id }}
        />
      </div>
      <Flex gap={6} className="stage-label">
        <strong className="ellipsis">{state.name}</strong> <span style={{ flex: 'none' }}>{place}</span>
      </Flex>
      <SectionsOfSheet zoom={zooming} />
      <StageTools zoom={zooming} toChosen={toChosen} />
      <Flex align="center" gap={8} className="stage-foot" onPointerDown={(e) => e.stopPropagation()}>
        <ScopeSwitch />
        <Hint before={previous?.name} after={next?.name} canTrace={chosen.length === 1} />
      </Flex>
    </section>
  );
}

/** What is pulled in the inspector is seen here at once. */
function usePreview(scene: Scene | null, pose: Pose): void {
  useEffect(() => {
    stageHands.preview = (ids, property, value) => {
      const there = ids.filter((id) => pose[id]);
      if (scene)
        shownIn(
          scene,
          Object.fromEntries(there.map((id) => [id, { [property]: value ?? known(known(pose[id])[property]) }])),
        );
    };
    return () => {
      stageHands.preview = () => undefined;
    };
  }, [scene, pose]);
}

/** Of a content that is longer than its screen: each section, to be brought onto the stage. */
function SectionsOfSheet({ zoom }: { zoom: Zoom }) {
  const piece = useBench((b) => b.document);
  const places = placesOf(sectionsOf(piece));
  if (!places.length) return null;
  return (
    <ol className="sheet-sections" aria-label="Sections on the stage" onPointerDown={(e) => e.stopPropagation()}>
      {places.map(({ id, name, top: from, bottom }) => (
        <li key={id}>
          <PlainButton onClick={() => zoom.toBox({ left: 0, right: piece.width, top: from, bottom })}>
            {name}
          </PlainButton>
        </li>
      ))}
    </ol>
  );
}

/** The state that is being posed, and those beside it. */
function useNeighbours() {
  const states = useBench(useShallow((b) => b.document.states.map((s) => `${s.id} ${s.name}`))).map(namedOf);
  const id = useBench((b) => b.state);
  const index = states.findIndex((s) => s.id === id);
  const place = `${index + 1} of ${states.length}`;
  return { state: known(states[index]), previous: states[index - 1], next: states[index + 1], place };
}

const withValues = (pose: Pose, looks: Record<string, Record<string, number>>): Pose => ({
  ...pose,
  ...Object.fromEntries(Object.entries(looks).map(([id, values]) => [id, { ...known(pose[id]), ...values }])),
});

/** What the tool in hand does; without one, what is shown besides the pose. */
function Hint(ghosts: { before: string | undefined; after: string | undefined; canTrace: boolean }) {
  const { tool, points } = useView(useShallow(({ tool, points }) => ({ tool, points })));
  const hint = hintOf(tool);
  if (points && tool === 'choose') return <PointTools />;
  return hint ? <span className="quiet">{hint}</span> : <GhostSwitch {...ghosts} />;
}

function hintOf(tool: string): string {
  if (tool === 'pen') return 'click, or drag a bend; Enter ends';
  if (tool === 'line') return 'drag; Shift: steps of 15°';
  if (tool === 'colour') return 'click on a colour';
  return '';
}
