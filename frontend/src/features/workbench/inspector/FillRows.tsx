import { Button, Popover } from 'antd';
import { useState } from 'react';
import type { Original } from '../../../api/contract';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, useBench } from '../bench';
import { fillRows, rowsIn } from '../edits';

/** As many copies as there are pasted rows, each with its own values. */
export function FillRows({ id, original }: { id: string; original: Original }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  if (!original.parameters.length) return null;
  const read = rowsIn(text, original.parameters);
  const fill = async () => {
    if (!(await attempt(fillRows(useBench.getState().document, id, read)))) return;
    setOpen(false);
    setText('');
  };
  const names = original.parameters.map(({ name }) => name).join(', ');
  const panel = (
    <div style={{ width: 320 }}>
      <p className="quiet">
        One row for each copy, its cells apart by tabs: {names}. A first row of those names may set another order.
      </p>
      <textarea
        aria-label="Rows"
        className="rows-field"
        rows={6}
        value={text}
        maxLength={200_000}
        onChange={(event) => setText(event.target.value)}
      />
      {read.faults.slice(0, 3).map((fault) => (
        <p key={fault} className="overrides" role="alert">
          {fault}
        </p>
      ))}
      <Button type="primary" disabled={!read.rows.length || read.faults.length > 0} onClick={() => void fill()}>
        {read.rows.length > 1 ? `Fill ${read.rows.length} copies` : 'Fill this copy'}
      </Button>
    </div>
  );
  return (
    <Popover trigger="click" placement="left" open={open} onOpenChange={setOpen} content={panel}>
      <PlainButton>Fill from pasted rows…</PlainButton>
    </Popover>
  );
}
