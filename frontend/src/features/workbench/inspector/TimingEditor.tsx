import { Flex } from 'antd';
import type { SpringReading, TimingReading } from '../../../api/contract';
import { CURVE_PRESETS, PRESET_SHAPES, SPRING_PRESETS } from '../../../api/generated/catalogue';
import { known } from '../../../shared/known';
import { round } from '../../../shared/text/sums';
import { stepped } from '../../../shared/ui/hands';
import { NumberField, TextField } from '../../../shared/ui/Field';
import { Choice } from '../../../shared/ui/Choice';
import { attemptCommit } from '../bench';
import type { Timing } from '../edits';
import { springLike } from '../springs';
import { easingOf } from './bezier';
import { CurvePlot } from './CurvePlot';
import { OwnPresets } from './OwnPresets';
import { PresetChip } from './PresetChip';

interface Props {
  timing: Timing;
  /** Of several transitions that differ in it. */
  mixed?: boolean;
  reading: TimingReading | null | undefined;
  /** When it begins in the run, ms. */
  starts?: readonly number[];
  commit: (timing: Timing) => Promise<void>;
}

const SWELL = { kind: 'spring' as const, ...known(SPRING_PRESETS.Swell) };

/** A curve or a spring, in numbers, by name, and drawn. */
export function TimingEditor({ timing, mixed = false, reading, starts, commit }: Props) {
  // What is given up by switching is a curve as long as the spring was, so that the pace stays.
  const asKind = (kind: string): Timing =>
    kind === 'spring' ? SWELL : { kind: 'curve', duration_ms: reading?.own_ms ?? 300, easing: 'ease-out' };
  return (
    <>
      <Choice
        block
        aria-label="Curve or spring"
        {...(!mixed && { value: timing.kind ?? 'curve' })}
        options={[
          { value: 'curve', label: 'Curve' },
          { value: 'spring', label: 'Spring' },
        ]}
        onChange={(kind) => attemptCommit(commit(asKind(kind)))}
      />
      {reading && !mixed && (
        <CurvePlot
          reading={reading}
          starts={starts}
          reshape={(shape) => attemptCommit(springLike(shape, timing).then((next) => stepped(() => commit(next))))}
          easing={timing.kind === 'spring' ? null : (timing.easing ?? 'ease-in-out')}
          bend={(easing) =>
            timing.kind === 'spring' ? Promise.resolve() : attemptCommit(commit({ ...timing, easing }))
          }
        />
      )}
      {timing.kind === 'spring' ? (
        <SpringFields timing={timing} mixed={mixed} reading={reading?.spring} commit={commit} />
      ) : (
        <CurveFields timing={timing} mixed={mixed} commit={commit} />
      )}
      {!mixed && <OwnPresets timing={timing} commit={commit} />}
    </>
  );
}

type CurveTiming = Exclude<Timing, { kind: 'spring' }>;
type SpringTiming = Extract<Timing, { kind: 'spring' }>;

function CurveFields({ timing, mixed, commit }: { timing: CurveTiming; mixed: boolean; commit: Props['commit'] }) {
  const easing = timing.easing ?? 'ease-in-out';
  return (
    <>
      <NumberField
        label="duration"
        unit="ms"
        step={10}
        value={timing.duration_ms}
        mixed={mixed}
        commit={(v) => commit({ ...timing, duration_ms: v })}
      />
      <TextField
        label="easing"
        value={easing}
        mixed={mixed}
        commit={(v) => commit({ ...timing, easing: easingOf(v) })}
      />
      <Flex wrap gap={5} role="group" aria-label="Easings">
        {Object.entries(CURVE_PRESETS).map(([name, css]) => (
          <PresetChip
            key={name}
            name={name}
            shape={PRESET_SHAPES[name]}
            pressed={!mixed && easing === css}
            choose={() => attemptCommit(commit({ ...timing, easing: css }))}
          />
        ))}
      </Flex>
    </>
  );
}

const SPRING_FIELDS = [
  ['stiffness', 'stiffness', 10],
  ['damping', 'damping', 1],
  ['mass', 'mass', 0.1],
  ['velocity', 'start speed', 0.5],
] as const;

interface SpringProps {
  timing: SpringTiming;
  mixed: boolean;
  reading: SpringReading | null | undefined;
  commit: Props['commit'];
}

function SpringFields({ timing, mixed, reading, commit }: SpringProps) {
  const value = { mass: 1, velocity: 0, ...timing };
  return (
    <>
      <div className="pairs">
        {SPRING_FIELDS.map(([name, label, step]) => (
          <NumberField
            key={name}
            label={label}
            step={step}
            value={value[name]}
            mixed={mixed}
            commit={(v) => commit({ ...timing, [name]: v })}
          />
        ))}
      </div>
      {reading && !mixed && (
        <div className="pairs">
          <NumberField
            label="overshoot"
            unit="%"
            value={round(reading.overshoot * 100)}
            commit={async (v) => commit(await springLike({ ...reading, overshoot: v / 100 }, timing))}
          />
          <NumberField
            label="settles in"
            unit="ms"
            step={10}
            value={reading.settling_ms}
            commit={async (v) => commit(await springLike({ ...reading, settling_ms: v }, timing))}
          />
        </div>
      )}
      <Flex wrap gap={5} role="group" aria-label="Springs">
        {Object.entries(SPRING_PRESETS).map(([name, preset]) => (
          <PresetChip
            key={name}
            name={name}
            shape={PRESET_SHAPES[name]}
            pressed={!mixed && value.stiffness === preset.stiffness && value.damping === preset.damping}
            choose={() => attemptCommit(commit({ kind: 'spring', ...preset }))}
          />
        ))}
      </Flex>
    </>
  );
}
