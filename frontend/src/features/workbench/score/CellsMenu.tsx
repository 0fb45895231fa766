import { Dropdown, type MenuProps } from 'antd';
import { CURVE_PRESETS } from '../../../api/generated/catalogue';
import { isMany, useBlock } from './block';
import { blockCells, clear, fill, mirror, spread } from './blockActions';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** What can be done to a block of cells, with words for those who do not know it yet. */
export function CellsMenu() {
  const block = useBlock((s) => s.block);
  const many = block !== null && isMany(block);
  const wide = many && (blockCells()?.states.length ?? 0) > 2;
  const items: MenuProps['items'] = [
    { key: 'fill', label: many ? 'the same to the right' : 'the same in all states', onClick: () => void fill() },
    { key: 'spread', label: 'spread evenly', disabled: !wide, onClick: () => void spread('linear', 'evenly') },
    {
      key: 'along',
      label: 'spread along',
      disabled: !wide,
      children: Object.entries(CURVE_PRESETS).map(([name, css]) => ({
        key: name,
        label: name,
        onClick: () => void spread(css, `along ${name}`),
      })),
    },
    { key: 'mirror', label: 'mirror, left to right', disabled: !many, onClick: () => void mirror() },
    { key: 'clear', label: 'back to the base', onClick: () => void clear() },
    { type: 'divider' },
    { key: 'hint', disabled: true, label: 'Shift and click chooses a block; Ctrl C and Ctrl V copy and paste it' },
  ];
  return (
    <Dropdown trigger={['click']} disabled={!block} menu={{ items }}>
      <PlainButton
        disabled={!block}
        title={block ? 'The chosen cells' : 'Choose a cell first; Shift and click chooses a block'}
      >
        cells…
      </PlainButton>
    </Dropdown>
  );
}
