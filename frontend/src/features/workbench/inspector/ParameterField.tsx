import { Select } from 'antd';
import { NumberField, TextField } from '../../../shared/ui/Field';
import type { Had } from '../placements';
import { ColourField } from './ColourField';
import { PictureField } from './PictureField';

interface Props {
  had: Pick<Had, 'parameter' | 'value'>;
  commit: (value: string | number) => Promise<void>;
}

/** The value that a copy has for a parameter, by a field of its kind. */
export function ParameterField({ had: { parameter, value }, commit }: Props) {
  const { name, kind, states } = parameter;
  switch (kind) {
    case 'number':
    case 'time':
      return <NumberField label={name} unit={kind === 'time' ? 'ms' : ''} value={Number(value ?? 0)} commit={commit} />;
    case 'colour':
      return <ColourField label={name} value={String(value ?? 'none')} mixed={false} commit={commit} />;
    case 'picture':
      return <PictureField label={name} value={String(value ?? '')} commit={commit} />;
    case 'state':
      return (
        <Select
          aria-label={name}
          value={String(value ?? '')}
          options={states.map((own) => ({ value: own.id, label: own.name }))}
          onChange={(next: string) => void commit(next)}
        />
      );
    default:
      return <TextField label={name} value={String(value ?? '')} commit={commit} />;
  }
}
