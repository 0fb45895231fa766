import { NumberField } from '../../shared/ui/Field';
import { attemptTimes } from './barEdits';
import type { Bar } from './model';
import { roomOf, type Place } from './places';
import { useBench, useWatch } from '../workbench';

/** When a bar starts and ends, to be typed: of the run, and of its transition. */
export function Moments({ bar }: { bar: Bar }) {
  const fps = useWatch((w) => w.fps);
  const inFrames = (ms: number) => Math.round((ms * fps) / 100) / 10;
  const transitions = useBench((b) => b.document.transitions);
  const to = (place: Place) => {
    const { least, by } = roomOf(transitions ?? [], [bar]);
    const earliest = Math.round(bar.start_ms + least);
    if (place[0] < earliest - 0.5)
      throw new Error(`It starts no earlier than ${earliest} ms of the run: ${by} holds it.`);
    if (place[1] - place[0] < 1) throw new Error('It ends no earlier than 1 ms after it starts.');
    return attemptTimes([bar], new Map([[bar.key, place]]));
  };
  const field = (label: string, from: number, edge: 'start' | 'end') => (
    <NumberField
      label={edge === 'start' ? 'starts' : 'ends'}
      name={`${edge === 'start' ? 'Starts' : 'Ends'}, ${label}`}
      unit="ms"
      step={1}
      value={Math.round(edge === 'start' ? bar.start_ms - from : bar.end_ms - from)}
      commit={async (ms) =>
        to(edge === 'start' ? [from + ms, from + ms + bar.end_ms - bar.start_ms] : [bar.start_ms, from + ms])
      }
    />
  );
  return (
    <div className="pairs">
      <small className="quiet wide">
        in the run{' '}
        <span className="mono" title={`Frames of ${fps} per second`}>
          (frames {inFrames(bar.start_ms)} to {inFrames(bar.end_ms)})
        </span>
      </small>
      {field('of the run', 0, 'start')}
      {field('of the run', 0, 'end')}
      <small className="quiet wide">in its transition</small>
      {field('of the transition', bar.base_ms, 'start')}
      {field('of the transition', bar.base_ms, 'end')}
    </div>
  );
}
