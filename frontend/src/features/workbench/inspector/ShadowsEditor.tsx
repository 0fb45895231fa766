import { Checkbox, Flex } from 'antd';
import type { Shadow, Value } from '../../../api/contract';
import { NumberField } from '../../../shared/ui/Field';
import { attemptCommit } from '../bench';
import { ColourField } from './ColourField';
import { PlainButton } from '../../../shared/ui/PlainButton';

const NUMBERS = ['x', 'y', 'blur', 'spread'] as const;
const FRESH: Shadow = { x: 0, y: 2, blur: 6, spread: 0, colour: '#15293b40', inset: false };

interface Props {
  value: Value;
  commit: (value: Value) => Promise<void>;
  /** Shows shadows that are being pulled; null, what is kept. */
  preview?: ((value: Value | null) => void) | undefined;
}

/** The shadows of a layer, the first on top. */
export function ShadowsEditor({ value, commit, preview }: Props) {
  const shadows = value as readonly Shadow[];
  const withOne = (index: number, values: Partial<Shadow>) =>
    shadows.map((shadow, i) => (i === index ? { ...shadow, ...values } : shadow));
  const set = (index: number, values: Partial<Shadow>) => commit(withOne(index, values));
  return (
    <Flex vertical gap={6} className="wide editor" role="group" aria-label="Shadows">
      {shadows.map((shadow, index) => (
        <Flex vertical gap={6} key={index} style={{ borderBottom: '1px solid var(--hairline)', paddingBottom: 6 }}>
          <div className="pairs">
            {NUMBERS.map((name) => (
              <NumberField
                key={name}
                label={name}
                name={`${name} of shadow ${index + 1}`}
                value={shadow[name]}
                commit={(v) => set(index, { [name]: v })}
              />
            ))}
          </div>
          <ColourField
            label={`shadow ${index + 1}`}
            value={shadow.colour}
            commit={(colour) => set(index, { colour })}
            preview={(colour) => preview?.(colour === null ? null : withOne(index, { colour }))}
          />
          <Flex justify="space-between">
            <Checkbox
              checked={shadow.inset}
              onChange={(event) => attemptCommit(set(index, { inset: event.target.checked }))}
            >
              inside
            </Checkbox>
            <PlainButton
              aria-label={`Remove shadow ${index + 1}`}
              onClick={() => attemptCommit(commit(shadows.filter((_, i) => i !== index)))}
            >
              remove
            </PlainButton>
          </Flex>
        </Flex>
      ))}
      <PlainButton style={{ alignSelf: 'start' }} onClick={() => attemptCommit(commit([...shadows, FRESH]))}>
        + shadow
      </PlainButton>
    </Flex>
  );
}
