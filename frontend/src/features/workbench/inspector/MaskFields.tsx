import { Flex } from 'antd';
import type { Layer } from '../../../api/contract';
import { Choice } from '../../../shared/ui/Choice';
import { attempt, useBench } from '../bench';
import { isShape, setFixed } from '../edits';
import { placed } from '../tree';

const BY = [
  { value: 'outline', label: 'outline', title: 'What stands above it in its group is seen only inside its outline' },
  { value: 'alpha', label: 'opacity', title: 'What stands above it in its group is seen as much as it is opaque' },
  {
    value: 'brightness',
    label: 'brightness',
    title: 'What stands above it in its group is seen as much as it is bright',
  },
] as const;
type By = (typeof BY)[number]['value'];

const byOf = ({ mask }: Layer): By => (mask === true || !mask ? 'outline' : mask);

/** By what of it a mask cuts. */
export function MaskFields({ id }: { id: string }) {
  const piece = useBench((b) => b.document);
  const { layer } = placed(piece, id);
  if (!layer.mask) return null;
  return (
    <Flex vertical gap={6} component="section" aria-label="Mask">
      <h3>Cuts by its</h3>
      <Choice<By>
        block
        aria-label="By what it cuts"
        value={byOf(layer)}
        options={BY.filter(({ value }) => value !== 'outline' || isShape(layer))}
        onChange={(by) => void attempt(setFixed(piece, id, 'mask', by === 'outline' ? true : by))}
      />
    </Flex>
  );
}
