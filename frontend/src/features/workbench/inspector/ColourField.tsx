import { Popover } from 'antd';
import { useState } from 'react';
import { Swatch } from '../../../shared/ui/Swatch';
import { later } from '../../../shared/ui/later';
import { TextField } from '../../../shared/ui/Field';

// Colour spaces take as much room as the rest of the inspector.
const ColourPanel = later(async () => (await import('./ColourPanel')).ColourPanel, <div style={{ width: 276 }} />);

export interface ColourProps {
  label: string;
  value: string;
  mixed?: boolean;
  commit: (value: string) => Promise<void>;
  clear?: (() => Promise<void>) | undefined;
  /** Shows a colour that is being pulled; null, what is kept. */
  preview?: ((value: string | null) => void) | undefined;
}

/** Hexadecimal digits alone are a colour too. */
const withHash = (text: string) => (/^([0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})$/i.test(text) ? `#${text}` : text);

/** px from the left edge of the inspector: what opens there stands beside it, clear of every field. */
const insetOf = (element: HTMLElement) =>
  element.getBoundingClientRect().left - (element.closest('.inspector')?.getBoundingClientRect().left ?? 0);

/** A colour as CSS text, with a patch of it that opens what sets it otherwise. */
export function ColourField({ label, value, mixed = false, commit, clear, preview }: ColourProps) {
  const [open, setOpen] = useState(false);
  const [inset, setInset] = useState(0);
  const patch = (
    <Popover
      trigger="click"
      placement="left"
      align={{ offset: [-inset, 0] }}
      arrow={false}
      open={open}
      onOpenChange={setOpen}
      destroyOnHidden
      content={<ColourPanel {...{ label, value, commit, preview }} close={() => setOpen(false)} />}
    >
      <Swatch
        size={13}
        colour={value === 'none' || mixed ? 'transparent' : value}
        aria-label={`Choose ${label}`}
        onClick={(event) => setInset(insetOf(event.currentTarget))}
      />
    </Popover>
  );
  return (
    <TextField
      label={label}
      name={label}
      value={value}
      mixed={mixed}
      before={patch}
      commit={(text) => commit(withHash(text))}
      clear={clear}
    />
  );
}
