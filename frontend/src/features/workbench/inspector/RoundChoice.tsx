import { Select } from 'antd';
import type { Property } from '../../../api/generated/catalogue';

interface Props {
  free: readonly Property[];
  value: string | undefined;
  onChange: (name: string) => void;
}

/** Which property goes round, of those that can. */
export const RoundChoice = ({ free, value, onChange }: Props) => (
  <Select
    showSearch
    optionFilterProp="label"
    aria-label="What goes round"
    value={value}
    placeholder="nothing is left"
    options={free.map(({ name, label }) => ({ value: name, label }))}
    onChange={onChange}
  />
);
