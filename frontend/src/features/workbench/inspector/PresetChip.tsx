import { line } from '../../../shared/drawing/paint';
import { Chip } from '../../../shared/ui/Chip';
import type { PresetShape } from '../../../api/generated/catalogue';

interface Props {
  name: string;
  /** None of presets that were kept here. */
  shape?: PresetShape | undefined;
  pressed: boolean;
  choose: () => void;
}

/** px of the plot, and what lies above 1 and below 0 in it. */
const [WIDTH, HEIGHT, LOW, HIGH] = [18, 14, -0.25, 1.35];

/** A preset by name, with a small plot of its curve; a spring says how far it overshoots and when it has settled. */
export function PresetChip({ name, shape, pressed, choose }: Props) {
  if (!shape)
    return (
      <Chip pressed={pressed} onClick={choose}>
        {name}
      </Chip>
    );
  const figures =
    shape.settling_ms === null ? undefined : `${Math.round(shape.overshoot * 100)}% over · ${shape.settling_ms} ms`;
  return (
    <Chip className="preset" pressed={pressed} data-figures={figures} title={figures} onClick={choose}>
      <svg width={WIDTH} height={HEIGHT} aria-hidden="true">
        <path {...line('glass', 1.3)} d={plotOf(shape.curve)} />
      </svg>
      {name}
    </Chip>
  );
}

const plotOf = (curve: readonly [number, number][]): string =>
  curve
    .map(
      ([u, p], i) =>
        `${i ? 'L' : 'M'}${(1 + u * (WIDTH - 2)).toFixed(1)} ${(HEIGHT - 1 - ((p - LOW) / (HIGH - LOW)) * (HEIGHT - 2)).toFixed(1)}`,
    )
    .join('');
