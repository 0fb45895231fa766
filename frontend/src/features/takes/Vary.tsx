import { useQuery } from '@tanstack/react-query';
import { Button, Flex, Popover } from 'antd';
import { useState } from 'react';
import { Input } from '../../shared/ui/Input';
import type { NewTake, Preset } from '../../api/contract';
import { api } from '../../api/client';
import { CURVE_PRESETS, PRESET_SHAPES, SPRING_PRESETS } from '../../api/generated/catalogue';
import { NumberField } from '../../shared/ui/Field';
import { PresetChip } from '../workbench';

interface Props {
  /** Of what is varied. */
  name: string;
  /** Whether it could be made. */
  keep: (take: NewTake) => Promise<boolean>;
}

/** Makes another take of this one. */
export function Vary({ name, keep }: Props) {
  const [open, setOpen] = useState(false);
  const make = async (take: NewTake) => {
    if (await keep(take)) setOpen(false);
  };
  return (
    <Popover
      trigger="click"
      placement="topLeft"
      destroyOnHidden
      open={open}
      onOpenChange={setOpen}
      content={<Ways name={name} make={make} />}
    >
      <Button size="small" aria-label={`Vary… ${name}`}>
        Vary…
      </Button>
    </Popover>
  );
}

// A curve lends its easing alone, so any duration will do.
const CURVES = Object.entries(CURVE_PRESETS).map(([name, easing]): Preset => ({
  name,
  timing: { kind: 'curve', duration_ms: 1, easing },
}));
const SPRINGS = Object.entries(SPRING_PRESETS).map(([name, spring]): Preset => ({
  name,
  timing: { kind: 'spring', ...spring },
}));
const PRESETS = [...SPRINGS, ...CURVES];

function Ways({ name, make }: { name: string; make: (take: NewTake) => Promise<void> }) {
  const { data } = useQuery({ queryKey: ['presets'], queryFn: api.presets });
  const [factor, setFactor] = useState(1);
  const [preset, setPreset] = useState<Preset | null>(null);
  const [typed, setTyped] = useState('');
  const called = [preset?.name, factor !== 1 && `× ${factor}`].filter(Boolean).join(' ');
  const idle = !preset && factor === 1;
  return (
    <form
      className="vary"
      style={{ width: 330 }}
      aria-label={`Another take of ${name}`}
      onSubmit={(event) => {
        event.preventDefault();
        void make({
          name: typed.trim() || called,
          ...(factor !== 1 && { factor }),
          ...(preset && { timing: preset.timing }),
        });
      }}
    >
      <Flex vertical gap={9}>
        <NumberField
          label="times as long"
          name="Take times as long"
          unit="×"
          step={0.1}
          value={factor}
          commit={setWithin(setFactor)}
        />
        <span className="quiet">All tweens go like</span>
        <Flex wrap gap={5} role="group" aria-label="All tweens go like">
          {[...PRESETS, ...(data?.presets ?? [])].map((each) => (
            <PresetChip
              key={each.name}
              name={each.name}
              shape={data?.presets.includes(each) ? undefined : PRESET_SHAPES[each.name]}
              pressed={preset?.name === each.name}
              choose={() => setPreset(preset?.name === each.name ? null : each)}
            />
          ))}
        </Flex>
        <Flex gap={8}>
          <Input
            aria-label="Name of the other take"
            value={typed}
            placeholder={called || 'Name'}
            maxLength={120}
            onChange={(event) => setTyped(event.target.value)}
          />
          <Button type="primary" htmlType="submit" disabled={idle}>
            Make the take
          </Button>
        </Flex>
      </Flex>
    </form>
  );
}

const setWithin = (set: (factor: number) => void) => async (factor: number) => {
  if (!(factor >= 0.01 && factor <= 100)) throw new Error('Times from 0.01 to 100.');
  set(factor);
};
