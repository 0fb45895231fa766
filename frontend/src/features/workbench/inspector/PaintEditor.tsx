import { Flex } from 'antd';
import type { Gradient, Stop, Value } from '../../../api/contract';
import { NumberField } from '../../../shared/ui/Field';
import { Choice } from '../../../shared/ui/Choice';
import { attemptCommit } from '../bench';
import { ColourField } from './ColourField';
import { textOf } from '../../../shared/text/values';
import { PlainButton } from '../../../shared/ui/PlainButton';

const KINDS = ['colour', 'linear', 'radial', 'conic'] as const;
type Kind = (typeof KINDS)[number];

interface Props {
  label: string;
  value: Value;
  mixed?: boolean;
  commit: (value: Value) => Promise<void>;
  clear?: (() => Promise<void>) | undefined;
  /** Shows a paint that is being pulled; null, what is kept. */
  preview?: ((value: Value | null) => void) | undefined;
}

/** A colour, or a gradient with its stops, all in numbers. */
export function PaintEditor({ label, value, mixed = false, commit, clear, preview }: Props) {
  const gradient = typeof value === 'object' ? (value as Gradient) : null;
  return (
    <Flex vertical align="stretch" gap={6} className="wide editor" role="group" aria-label={label}>
      <div className="choice">
        <span className="quiet">{label}</span>
        <Choice<Kind>
          block
          size="small"
          aria-label={`Kind of ${label}`}
          {...(!mixed && { value: gradient?.kind ?? 'colour' })}
          options={[...KINDS]}
          onChange={(kind) => attemptCommit(commit(asKind(value, kind)))}
        />
      </div>
      {gradient && !mixed ? (
        <GradientFields gradient={gradient} commit={commit} preview={preview} />
      ) : (
        <ColourField {...{ label, mixed, commit, clear, preview }} value={gradient ? '' : textOf(value)} />
      )}
    </Flex>
  );
}

function asKind(value: Value, kind: Kind): Value {
  const before = typeof value === 'object' ? (value as Gradient) : null;
  if (kind === 'colour') return before?.stops[0]?.colour ?? textOf(value);
  const own = textOf(value) === 'none' ? '#15293b' : textOf(value);
  const stops: readonly Stop[] = before?.stops ?? [
    { at: 0, colour: own },
    { at: 1, colour: '#fbfaf5' },
  ];
  return { kind, stops } as Gradient;
}

/** Numbers of each kind, with what stands for them where nothing is said. */
const NUMBERS: Record<Gradient['kind'], [name: string, label: string, unsaid: number, unit: string, step: number][]> = {
  linear: [['angle', 'angle', 180, '°', 1]],
  radial: [
    ['centre_x', 'centre x', 0.5, '', 0.05],
    ['centre_y', 'centre y', 0.5, '', 0.05],
    ['radius', 'radius', 0.5, '', 0.05],
    ['stretch', 'stretch', 1, '', 0.05],
    ['angle', 'angle', 0, '°', 1],
    ['focus_x', 'focus x', 0, '', 0.05],
    ['focus_y', 'focus y', 0, '', 0.05],
  ],
  conic: [
    ['angle', 'from', 0, '°', 1],
    ['centre_x', 'centre x', 0.5, '', 0.05],
    ['centre_y', 'centre y', 0.5, '', 0.05],
  ],
};

function GradientFields({ gradient, commit, preview }: { gradient: Gradient } & Pick<Props, 'commit' | 'preview'>) {
  const numbers = gradient as unknown as Record<string, number | undefined>;
  const { stops } = gradient;
  const set = (values: object) => commit({ ...gradient, ...values });
  const withStop = (index: number, values: Partial<Stop>) =>
    stops.map((stop, i) => (i === index ? { ...stop, ...values } : stop));
  const setStop = (index: number, values: Partial<Stop>) => set({ stops: withStop(index, values) });
  const add = () => {
    // Between the last two, so that what is there stays where it is.
    const [before, last] = stops.slice(-2) as [Stop, Stop];
    const stop = { at: (before.at + last.at) / 2, colour: last.colour };
    void attemptCommit(set({ stops: [...stops.slice(0, -1), stop, last] }));
  };
  return (
    <>
      <div className="pairs">
        {NUMBERS[gradient.kind].map(([name, label, unsaid, unit, step]) => (
          <NumberField
            key={name}
            label={label}
            unit={unit}
            step={step}
            value={numbers[name] ?? unsaid}
            commit={(v) => set({ [name]: v })}
          />
        ))}
      </div>
      {stops.map((stop, index) => (
        <Flex key={index} gap={6}>
          <NumberField
            label=""
            width={76}
            name={`Place of stop ${index + 1}`}
            unit="%"
            value={Math.round(stop.at * 1e4) / 100}
            commit={(v) => setStop(index, { at: v / 100 })}
          />
          <ColourField
            label={`stop ${index + 1}`}
            value={stop.colour}
            commit={(colour) => setStop(index, { colour })}
            preview={(colour) =>
              preview?.(colour === null ? null : ({ ...gradient, stops: withStop(index, { colour }) } as Gradient))
            }
          />
          <PlainButton
            aria-label={`Remove stop ${index + 1}`}
            disabled={stops.length <= 2}
            onClick={() => attemptCommit(set({ stops: stops.filter((_, i) => i !== index) }))}
          >
            ×
          </PlainButton>
        </Flex>
      ))}
      <PlainButton style={{ alignSelf: 'start' }} onClick={add}>
        + stop
      </PlainButton>
    </>
  );
}
