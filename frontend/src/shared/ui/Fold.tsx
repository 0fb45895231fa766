import { type ReactNode } from 'react';
import { create } from 'zustand';

const KEPT = 'keen-ripple folds';

/** Also where there is no page, as in tests of what stands beside it. */
function kept(): Record<string, boolean> {
  const text = typeof sessionStorage === 'undefined' ? null : sessionStorage.getItem(KEPT);
  return JSON.parse(text ?? '{}') as Record<string, boolean>;
}

/** Which folds are open, by their titles: from one thing that is chosen to the next, and through a reload, they stay. */
const useOpen = create(kept);
useOpen.subscribe((open) => sessionStorage.setItem(KEPT, JSON.stringify(open)));

interface Props {
  title: string;
  /** Until somebody opens or closes it. */
  open?: boolean;
  /** The state that is shown says something in it itself. */
  marked?: boolean;
  children: ReactNode;
}

/** A part of a panel that can be folded away. */
export function Fold({ title, open = false, marked = false, children }: Props) {
  const isOpen = useOpen((all) => all[title]) ?? open;
  return (
    <details open={isOpen} onToggle={(event) => useOpen.setState({ [title]: event.currentTarget.open })}>
      <summary
        className={marked ? 'marked' : ''}
        title={marked ? 'With values that this state says itself' : undefined}
      >
        {title}
      </summary>
      {children}
    </details>
  );
}
