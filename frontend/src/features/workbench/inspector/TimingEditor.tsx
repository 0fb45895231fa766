import { Segmented } from 'antd';
import type { SpringReading, SpringShape, TimingReading } from '../../../api/answers';
import { CURVE_PRESETS, SPRING_PRESETS } from '../../../api/generated/catalogue';
import { api } from '../../../api/client';
import { round } from '../../../shared/text/sums';
import { NumberField, TextField } from '../../../shared/ui/Field';
import { attemptCommit } from '../bench';
import type { Timing } from '../edits';
import { CurvePlot } from './CurvePlot';

interface Props {
  timing: Timing;
  reading: TimingReading | null | undefined;
  commit: (timing: Timing) => Promise<void>;
}

const SWELL = { kind: 'spring' as const, ...SPRING_PRESETS.Swell! };

/** A curve or a spring, in numbers, by name, and drawn. */
export function TimingEditor({ timing, reading, commit }: Props) {
  // What is given up by switching is a curve as long as the spring was, so that the pace stays.
  const asKind = (kind: string): Timing =>
    kind === 'spring' ? SWELL : { kind: 'curve', duration_ms: reading?.own_ms ?? 300, easing: 'ease-out' };
  return (
    <>
      <Segmented
        block
        aria-label="Curve or spring"
        value={timing.kind ?? 'curve'}
        options={[
          { value: 'curve', label: 'Curve' },
          { value: 'spring', label: 'Spring' },
        ]}
        onChange={(kind) => attemptCommit(commit(asKind(kind)))}
      />
      {reading && <CurvePlot reading={reading} reshape={(shape) => attemptCommit(fitted(shape).then(commit))} />}
      {timing.kind === 'spring' ? <SpringFields timing={timing} reading={reading?.spring} commit={commit} /> : <CurveFields timing={timing} commit={commit} />}
    </>
  );
}

type CurveTiming = Exclude<Timing, { kind: 'spring' }>;
type SpringTiming = Extract<Timing, { kind: 'spring' }>;

function CurveFields({ timing, commit }: { timing: CurveTiming; commit: Props['commit'] }) {
  const easing = timing.easing ?? 'ease-in-out';
  return (
    <>
      <NumberField label="duration" unit="ms" step={10} value={timing.duration_ms} commit={(v) => commit({ ...timing, duration_ms: v })} />
      <TextField label="easing" value={easing} commit={(v) => commit({ ...timing, easing: v })} />
      <div className="chips" role="group" aria-label="Easings">
        {Object.entries(CURVE_PRESETS).map(([name, css]) => (
          <button key={name} aria-pressed={easing === css} title={css} onClick={() => attemptCommit(commit({ ...timing, easing: css }))}>
            {name}
          </button>
        ))}
      </div>
    </>
  );
}

const SPRING_FIELDS = [
  ['stiffness', 'stiffness', 10],
  ['damping', 'damping', 1],
  ['mass', 'mass', 0.1],
  ['velocity', 'start speed', 0.5],
] as const;

/** The spring that looks like this. */
const fitted = async (shape: SpringShape): Promise<Timing> => ({ kind: 'spring', ...(await api.spring(shape)) });

interface SpringProps {
  timing: SpringTiming;
  reading: SpringReading | null | undefined;
  commit: Props['commit'];
}

function SpringFields({ timing, reading, commit }: SpringProps) {
  const value = { mass: 1, velocity: 0, ...timing };
  return (
    <>
      <div className="pairs">
        {SPRING_FIELDS.map(([name, label, step]) => (
          <NumberField key={name} label={label} step={step} value={value[name]} commit={(v) => commit({ ...timing, [name]: v })} />
        ))}
      </div>
      {reading && (
        <div className="pairs">
          <NumberField label="overshoot" unit="%" value={round(reading.overshoot * 100)} commit={async (v) => commit(await fitted({ ...reading, overshoot: v / 100 }))} />
          <NumberField label="settles in" unit="ms" step={10} value={reading.settling_ms} commit={async (v) => commit(await fitted({ ...reading, settling_ms: v }))} />
        </div>
      )}
      <div className="chips" role="group" aria-label="Springs">
        {Object.entries(SPRING_PRESETS).map(([name, preset]) => (
          <button
            key={name}
            aria-pressed={value.stiffness === preset.stiffness && value.damping === preset.damping}
            onClick={() => attemptCommit(commit({ kind: 'spring', ...preset }))}
          >
            {name}
          </button>
        ))}
      </div>
    </>
  );
}
