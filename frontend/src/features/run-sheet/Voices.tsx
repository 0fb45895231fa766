import { Flex } from 'antd';
import { useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Run, RunningVoice } from '../../api/contract';
import { line } from '../../shared/drawing/paint';
import { PlainButton } from '../../shared/ui/PlainButton';
import { goToOriginal, labelIn, originalOf, useBench } from '../workbench';
import { ROW_H } from './rowHeight';
import type { Scale } from './Sheet';
import { stretchesOf, voicesOf } from './voices';

/** A line for each free copy: when it goes from state to state by itself, as its original says. */
export function Voices({ run, scale }: { run: Run; scale: Scale }) {
  const voices = useMemo(() => voicesOf(run), [run]);
  if (!voices.length) return null;
  return (
    <ul className="voices bare-list" aria-label="Free copies">
      {voices.map((voice) => (
        <VoiceLine key={voice.placement} voice={voice} total={run.total_ms} scale={scale} />
      ))}
    </ul>
  );
}

function VoiceLine({ voice, total, scale }: { voice: RunningVoice; total: number; scale: Scale }) {
  const { placement } = voice;
  const [copy = placement] = placement.split('/');
  const { name, original } = useBench(
    useShallow((b) => ({ name: labelIn(b, placement), original: originalOf(b, copy) })),
  );
  const stateName = (id: string) =>
    (placement === copy && original?.states.find((state) => state.id === id)?.name) || id;
  const stretches = useMemo(() => stretchesOf(voice, total), [voice, total]);
  return (
    <Flex component="li">
      <span className="voice-name">
        <PlainButton
          className="ellipsis"
          title={`${name} plays by itself: go to ${original?.name ?? 'its original'}`}
          onClick={() => goToOriginal(useBench.getState().document, copy)}
        >
          {name.split(' › ').at(-1)}
        </PlainButton>
        <span className="quiet">free</span>
      </span>
      <svg width={scale.width + 26} height={ROW_H} role="img" aria-label={toldOf(name, voice, stretches.length)}>
        <line {...line('grid')} x1={0} x2={scale.width + 26} y1={ROW_H - 0.5} y2={ROW_H - 0.5} />
        <line
          {...line('glass')}
          strokeDasharray="1 3"
          x1={scale.x(voice.begins_ms)}
          x2={scale.width}
          y1={13.5}
          y2={13.5}
        />
        {stretches.map(({ start_ms, end_ms, from, to }) => (
          <rect
            key={start_ms}
            className="stretch"
            x={scale.x(start_ms)}
            y={8}
            width={Math.max(scale.x(end_ms) - scale.x(start_ms), 2)}
            height={11}
          >
            <title>{`${name}: ${stateName(from)} to ${stateName(to)}, ${Math.round(start_ms)} to ${Math.round(end_ms)} ms`}</title>
          </rect>
        ))}
      </svg>
    </Flex>
  );
}

function toldOf(name: string, { begins_ms, run }: RunningVoice, ways: number): string {
  const round = run.loop_ms === null ? 'plays once' : `goes round in ${run.loop_ms} ms`;
  return ways ? `${name} ${round}, from ${begins_ms} ms on` : `${name} waits for somebody to act`;
}
