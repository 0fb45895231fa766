import { Popover } from 'antd';
import { lazy, Suspense, useState } from 'react';
import { TextField } from '../../../shared/ui/Field';

/** Loaded when it is opened: colour spaces take as much room as the rest of the inspector. */
const ColourPanel = lazy(() => import('./ColourPanel'));

export interface ColourProps {
  label: string;
  value: string;
  mixed?: boolean;
  commit: (value: string) => Promise<void>;
}

/** A colour as CSS text, with a patch of it that opens what sets it otherwise. */
export function ColourField({ label, value, mixed = false, commit }: ColourProps) {
  const [open, setOpen] = useState(false);
  const patch = (
    <Popover
      trigger="click"
      placement="left"
      // Clear of the fields around it.
      align={{ offset: [-112, 0] }}
      arrow={false}
      open={open}
      onOpenChange={setOpen}
      destroyOnHidden
      content={
        <Suspense fallback={<div className="colour-panel" />}>
          <ColourPanel label={label} value={value} commit={commit} close={() => setOpen(false)} />
        </Suspense>
      }
    >
      <button
        className="colour-swatch"
        aria-label={`Choose ${label}`}
        style={{ background: value === 'none' || mixed ? 'transparent' : value }}
      />
    </Popover>
  );
  return <TextField label={label} name={label} value={value} mixed={mixed} before={patch} commit={commit} />;
}
