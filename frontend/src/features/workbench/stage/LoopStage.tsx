import { Button, Flex } from 'antd';
import { memo, useCallback, useRef, useSyncExternalStore, type PointerEvent } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { Chip } from '../../../shared/ui/Chip';
import { LoopView, pictureOf, Ring, RunBar, type Scene } from '../../player';
import { clock, useBench } from '../bench';
import { isByAPerson } from '../cues';
import { standingStill } from '../standing';
import { playWays, useCourse } from '../course';
import { usePlayed, useTrial } from '../trial';
import { Pixels } from '../watch/Pixels';
import { Speeds } from '../watch/Speeds';
import { TryValues } from '../watch/TryValues';
import { useWatch } from '../watch/watch';
import { WatchPanel } from '../watch/WatchPanel';
import { ActForMe, UseSwitch, useUsed } from './UsedLoop';
import { useSize } from './useSize';
import { useZoom } from './useZoom';

/** The run, always playing beside the pose. */
export function LoopStage() {
  const picture = useBench(useShallow((b) => pictureOf(b.document, b.layers)));
  const { poses, tape, run } = usePlayed(({ poses, tape, run }) => ({ poses, tape, run }));
  const tried = useTrial((t) => t.trial?.edit.label);
  const { ref, size } = useSize<HTMLDivElement>();
  const piece = useRef<HTMLDivElement>(null);
  const zooming = useZoom('loop', ref, piece, size, picture);
  const { zoom, offset } = zooming;
  const { pixels, follows, uses } = useWatch();
  const used = useUsed(zoom, uses && !tried);
  const layer = useBench((b) => b.layer);
  const centred = useCallback((scene: Scene) => keepInMiddle(scene, follows ? layer : null), [follows, layer]);
  const pan = (event: PointerEvent) =>
    event.buttons === 1 &&
    event.target instanceof Element &&
    !event.target.closest('button, .stage-clock, .used') &&
    zooming.pan(event.movementX, event.movementY);
  return (
    <section
      className="stage"
      ref={ref}
      aria-label="Playing loop"
      data-stage="loop"
      onPointerMove={pan}
      onDoubleClick={zooming.toFit}
    >
      {tried ? (
        <div className="stage-label tried ellipsis" role="status">
          <strong>Trying</strong> {tried}
        </div>
      ) : (
        <div className="stage-label ellipsis">{used ? <strong>In use</strong> : <Label />}</div>
      )}
      <div className="loop-piece" ref={piece} style={{ transform: `translate(${offset.x}px,${offset.y}px)` }}>
        {used?.piece ?? (
          <LoopView piece={picture} poses={poses} run={run} tape={tape} clock={clock} zoom={zoom} onShown={centred} />
        )}
        {pixels && !tried && !used && <Pixels width={picture.width} height={picture.height} zoom={zoom} />}
      </div>
      {!used && <TryValues />}
      <WatchPanel zoom={zooming} />
      <Flex align="center" gap={8} className="stage-foot">
        {used ? used.controls : <PlayControls />}
      </Flex>
      <UseSwitch used={uses} />
      {run.total_ms > 0 && !used && (
        <div className="stage-clock">
          {run.loop_ms === null ? (
            <RunBar run={run} clock={clock} width={150} large />
          ) : (
            <Ring run={run} clock={clock} size={84} large />
          )}
        </div>
      )}
    </section>
  );
}

/** Whether anything plays; if not, why. */
function Label() {
  const still = useStill();
  return still ? <span title={still}>{still}</span> : <strong>Playing</strong>;
}

/** Why nothing plays; null where something does. */
function useStill(): string | null {
  const still = useBench((b) => standingStill(b.document, b.run));
  const ways = useCourse((c) => c.ways);
  return ways ? null : still;
}

/** Moves what the scene lies in so that a layer is in its middle. Read from the screen: groups and turns are in it. */
function keepInMiddle(scene: Scene, layer: string | null): void {
  const camera = scene.root.parentElement?.parentElement;
  if (!camera) return;
  const element = layer && scene.shown.get(layer)?.element;
  if (!element) {
    if (camera.style.translate) camera.style.translate = '';
    return;
  }
  const [whole, part] = [camera.getBoundingClientRect(), element.getBoundingClientRect()];
  camera.style.translate = `${whole.x + whole.width / 2 - part.x - part.width / 2}px ${whole.y + whole.height / 2 - part.y - part.height / 2}px`;
}

const setRate = (rate: number) => clock.setRate(rate);

const PlayControls = memo(function PlayControls() {
  const run = usePlayed((p) => p.run);
  const state = useBench((b) => b.state);
  const name = useBench((b) => b.document.states.find((s) => s.id === state)?.name ?? '');
  const playing = useSyncExternalStore(clock.onSwitch, () => clock.playing);
  const rate = useSyncExternalStore(clock.onSwitch, () => clock.rate);
  const part = useSyncExternalStore(clock.onSwitch, () => clock.plays);
  const ways = useCourse((c) => c.ways);
  const still = useStill();
  const answers = useBench((b) => (b.document.transitions ?? []).some(({ cue }) => isByAPerson(cue ?? 'hold')));
  const arrival = run.segments.find((segment) => segment.from === state);
  return (
    <>
      <Button
        disabled={run.total_ms === 0 && !part}
        onClick={() => clock.setPlaying(!playing)}
        title="Play or pause (Space)"
        style={{ width: 60 }}
      >
        {playing ? 'Pause' : 'Play'}
      </Button>
      <Speeds rate={rate} setRate={setRate} />
      {still && answers ? (
        <ActForMe />
      ) : part || ways ? (
        <Chip className="from" pressed title="The whole run again" onClick={() => playWays(null)}>
          whole run
        </Chip>
      ) : (
        <Chip
          className="from"
          disabled={!arrival}
          title="Play from the moment this state is reached"
          onClick={() => arrival && clock.seek(arrival.start_ms)}
        >
          <span className="ellipsis">from {name}</span>
        </Chip>
      )}
    </>
  );
});
