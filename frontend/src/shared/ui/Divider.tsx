import type { KeyboardEvent, PointerEvent } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import './divider.css';
import { pulling } from './pulling';

/** Heights that the designer has chosen, by what they are of; kept in this browser. */
const useHeights = create(persist<Record<string, number>>(() => ({}), { name: 'keen-ripple heights' }));

/** px, or undefined where nobody has chosen one. */
export const useHeight = (of: string): number | undefined => useHeights((all) => all[of]);

interface Props {
  /** What lies below it. */
  of: string;
  label: string;
  /** px */
  least: number;
  most: number;
}

const STEP = 10;
/** Where the lower edge of what lies below is, px from where the pointer took it. */
const held = new WeakMap<Element, number>();

/** The line above a part of the page, to be pulled: the part is as high as the designer wants it. A double click leaves
 * it to the page again. */
export function Divider({ of, label, least, most }: Props) {
  const chosen = useHeight(of);
  const set = (height: number) => useHeights.setState({ [of]: Math.round(Math.min(Math.max(height, least), most)) });
  const press = ({ clientY, currentTarget }: PointerEvent<HTMLDivElement>) =>
    void held.set(currentTarget, clientY + below(currentTarget));
  const move = ({ clientY, currentTarget }: PointerEvent<HTMLDivElement>) =>
    set((held.get(currentTarget) ?? clientY) - clientY);
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const by = { ArrowUp: STEP, ArrowDown: -STEP }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    set(below(event.currentTarget) + by);
  };
  return (
    // A separator that can be moved is a control.
    // eslint-disable-next-line jsx-a11y-x/no-noninteractive-element-interactions
    <div
      className="divider"
      role="separator"
      aria-orientation="horizontal"
      aria-label={label}
      aria-valuenow={chosen ?? least}
      aria-valuemin={least}
      aria-valuemax={most}
      // eslint-disable-next-line jsx-a11y-x/no-noninteractive-tabindex
      tabIndex={0}
      title={`${label}: pull, or arrow keys; double-click as it was`}
      onDoubleClick={() => forget(of)}
      onKeyDown={onKeyDown}
      {...pulling({ press, move })}
    />
  );
}

function forget(of: string): void {
  const { [of]: forgotten, ...others } = useHeights.getState();
  if (forgotten !== undefined) useHeights.setState(others, true);
}

const below = (divider: Element) => divider.nextElementSibling?.getBoundingClientRect().height ?? 0;
