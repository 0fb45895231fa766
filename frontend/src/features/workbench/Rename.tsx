import { useState } from 'react';
import { Input } from '../../shared/ui/Input';
import { FieldFault } from '../../shared/ui/FieldFault';
import { useTyped } from '../../shared/ui/useTyped';

interface Props {
  value: string;
  label: string;
  commit: (value: string) => Promise<void>;
}

const parse = (text: string): { value: string } | { fault: string } =>
  text.trim() ? { value: text.trim() } : { fault: 'A name needs at least one character.' };

/** A name that becomes a field when it is double-clicked, or by F2. */
export function Rename({ value, label, commit }: Props) {
  const [open, setOpen] = useState(false);
  if (!open) {
    return (
      <span className="name" title={`${value} · double-click to rename`} onDoubleClick={() => setOpen(true)}>
        {value}
      </span>
    );
  }
  return <NameField value={value} label={label} commit={commit} close={() => setOpen(false)} />;
}

export function NameField({ value, label, commit, close }: Props & { close: () => void }) {
  const typed = useTyped({
    value,
    format: (v) => v,
    parse,
    commit: async (next) => {
      await commit(next);
      close();
    },
    onEnter: close,
  });
  return (
    <span className="rename">
      <Input
        size="small"
        {...typed.input}
        ref={(field) => field?.focus()}
        aria-label={label}
        onBlur={() => {
          typed.input.onBlur();
          if (!typed.fault && typed.input.value === value) close();
        }}
        onKeyDown={(event) => {
          typed.input.onKeyDown(event);
          if (event.key === 'Escape') close();
        }}
      />
      <FieldFault text={typed.fault} />
    </span>
  );
}
