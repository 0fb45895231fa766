import { type ReactNode } from 'react';
import { create } from 'zustand';

/** Which folds are open, by their titles: from one thing that is chosen to the next, they stay as they were. */
const useOpen = create<Record<string, boolean>>(() => ({}));

interface Props {
  title: string;
  /** Until somebody opens or closes it. */
  open?: boolean;
  children: ReactNode;
}

/** A part of a panel that can be folded away. */
export function Fold({ title, open = false, children }: Props) {
  const isOpen = useOpen((all) => all[title]) ?? open;
  return (
    <details open={isOpen} onToggle={(event) => useOpen.setState({ [title]: event.currentTarget.open })}>
      <summary>{title}</summary>
      {children}
    </details>
  );
}
