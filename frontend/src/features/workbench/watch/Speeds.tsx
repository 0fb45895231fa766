import { Flex } from 'antd';
import { Chip } from '../../../shared/ui/Chip';
import { RATES } from './watch';

/** How many times as fast as the clock on the wall. */
export function Speeds({ rate, setRate }: { rate: number; setRate: (rate: number) => void }) {
  return (
    <Flex gap={4} role="group" aria-label="Speed">
      {RATES.map(([value, label]) => (
        <Chip key={value} pressed={rate === value} onClick={() => setRate(value)}>
          {label}
        </Chip>
      ))}
    </Flex>
  );
}
