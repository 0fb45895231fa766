import { useEffect } from 'react';
import { useBench } from './bench';
import { shortcutFor } from './shortcuts';
import { stage } from './stageHands';
import type { Zoom } from './stage/useZoom';

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.matches('input:not([type=checkbox], [type=radio]), textarea, [contenteditable]');
/** What opens over the page is closed by Escape, and nothing else is. */
const OVER_THE_PAGE = '.ant-popover, .ant-dropdown, .ant-modal';
/** Keys that buttons and lists have uses of their own for, and what lies over them. */
const theirs = (event: KeyboardEvent) =>
  event.target instanceof Element &&
  ((event.key === 'Escape' && event.target.closest(OVER_THE_PAGE) !== null) ||
    (event.key === ' '
      ? event.target.matches('button, [role=button], [role=slider], summary, input')
      : event.key.startsWith('Arrow') && (!isChosen() || event.target.closest(WITH_ARROWS) !== null)));

const isChosen = () => useBench.getState().layer !== null;
const WITH_ARROWS = [
  '.score, .used, .ant-segmented, .ant-select, dialog, input, video',
  ...['slider', 'radiogroup', 'tablist', 'menu', 'listbox', 'dialog', 'tooltip'].map((role) => `[role=${role}]`),
].join();

/** The keys of these groups. Fields keep theirs for themselves. */
export function useKeys(groups: readonly string[]): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const undoing = (event.ctrlKey || event.metaKey) && 'zZy'.includes(event.key);
      const everywhere = undoing || event.key === 'F6';
      if (event.defaultPrevented || (!everywhere && typing(event.target)) || theirs(event)) return;
      const shortcut = shortcutFor(event, groups);
      if (!shortcut) return;
      event.preventDefault();
      if (undoing) (document.activeElement as HTMLElement | null)?.blur();
      shortcut.run(event);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [groups]);
}

/** Lets the keys reach the stage that is shown. */
export function useStageKeys({ toFit, toSize, by }: Zoom, toChosen: (() => void) | null): void {
  useEffect(() => void Object.assign(stage, { toFit, toSize, by, toChosen: toChosen ?? (() => {}) }));
}
