import { Button } from 'antd';
import { memo, useState, useSyncExternalStore } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { LoopView, pictureOf, Ring, RunBar } from '../../player';
import { clock, useBench } from '../bench';
import { usePlayed, useTrial } from '../trial';
import { fit, useSize } from './useSize';

const RATES: [number, string][] = [
  [2, '2×'],
  [1, '1×'],
  [0.5, '½'],
  [0.25, '¼'],
];

/** The run, always playing beside the pose. */
export function LoopStage() {
  const picture = useBench(useShallow((b) => pictureOf(b.document!)));
  const { poses, tape, run } = usePlayed();
  const tried = useTrial((t) => t.trial?.edit.label);
  const { ref, size } = useSize<HTMLDivElement>();
  return (
    <section className="stage" ref={ref} aria-label="Playing loop" data-stage="loop">
      {tried ? (
        <div className="stage-label tried" role="status">
          <strong>Trying</strong> {tried}
        </div>
      ) : (
        <div className="stage-label">
          <strong>Playing</strong> always on
        </div>
      )}
      <LoopView piece={picture} poses={poses} run={run} tape={tape} clock={clock} zoom={fit(size, picture)} />
      <div className="stage-foot">
        <PlayControls />
      </div>
      <div className="stage-clock">
        {run.loop_ms === null ? <RunBar run={run} clock={clock} width={150} large /> : <Ring run={run} clock={clock} size={84} large />}
      </div>
    </section>
  );
}

const PlayControls = memo(function PlayControls() {
  const { run } = usePlayed();
  const state = useBench((b) => b.state);
  const name = useBench((b) => b.document!.states.find((s) => s.id === state)?.name ?? '');
  const playing = useSyncExternalStore(clock.onSwitch, () => clock.playing);
  const [rate, setRate] = useState(clock.rate);
  const part = useSyncExternalStore(clock.onSwitch, () => clock.plays);
  const arrival = run.segments.find((segment) => segment.from === state);
  return (
    <>
      <Button onClick={() => clock.setPlaying(!playing)} title="Space" style={{ width: 60 }}>
        {playing ? 'Pause' : 'Play'}
      </Button>
      <span className="rates" role="group" aria-label="Speed">
        {RATES.map(([value, label]) => (
          <button
            key={value}
            aria-pressed={rate === value}
            onClick={() => {
              clock.rate = value;
              setRate(value);
            }}
          >
            {label}
          </button>
        ))}
      </span>
      {part ? (
        <button className="from" aria-pressed="true" title="The whole run again" onClick={() => clock.setPart(null)}>
          alone ×
        </button>
      ) : (
        <button className="from" disabled={!arrival} title="Play from the moment this state is reached" onClick={() => arrival && clock.seek(arrival.start_ms)}>
          from {name}
        </button>
      )}
    </>
  );
});
