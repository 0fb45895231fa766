import { Dropdown, type MenuProps } from 'antd';
import { CURVE_PRESETS } from '../../../api/generated/catalogue';
import { isMany, useBlock } from './block';
import { useState } from 'react';
import { changeOf } from '../../../shared/text/sums';
import { FieldFault } from '../../../shared/ui/FieldFault';
import { Input } from '../../../shared/ui/Input';
import { blockCells, change, clear, fill, mirror, spread } from './blockActions';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** What can be done to a block of cells, with words for those who do not know it yet. */
export function CellsMenu() {
  const block = useBlock((s) => s.block);
  const [asks, setAsks] = useState(false);
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
    { key: 'change', label: 'add to all, or times…', onClick: () => setAsks(true) },
    { key: 'mirror', label: 'mirror, left to right', disabled: !many, onClick: () => void mirror() },
    { key: 'clear', label: 'back to the base', onClick: () => void clear() },
    { type: 'divider' },
    { key: 'hint', disabled: true, label: 'Shift and click chooses a block; Ctrl C and Ctrl V copy and paste it' },
  ];
  if (asks && block) return <ChangeCells close={() => setAsks(false)} />;
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

/** By how much, or how many times, all of them are changed. */
function ChangeCells({ close }: { close: () => void }) {
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  return (
    <form
      className="cells-change"
      onSubmit={(event) => {
        event.preventDefault();
        const by = changeOf(text);
        if (!by) return setFault('Type +12, -10%, *0.5, or one number for all.');
        close();
        void change(by);
      }}
    >
      <Input
        size="small"
        aria-label="Change of the cells"
        placeholder="+12, -10%, *0.5"
        style={{ width: 120 }}
        value={text}
        ref={(field) => field?.focus()}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          close();
        }}
      />
      <FieldFault text={fault} />
    </form>
  );
}
