import { useEffect } from 'react';
import { choose, clock, goBack, useBench } from './bench';

const typing = (target: EventTarget | null) => target instanceof HTMLElement && target.matches('input, textarea, [contenteditable]');

/** The keys that work anywhere on the bench. Fields keep theirs for themselves. */
export function useKeys(): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
        event.preventDefault();
        (document.activeElement as HTMLElement | null)?.blur();
        void goBack(event.shiftKey ? 'redo' : 'undo');
      } else if (typing(event.target)) {
        return;
      } else if (event.key === ' ' && !(event.target instanceof HTMLButtonElement)) {
        event.preventDefault();
        clock.setPlaying(!clock.playing);
      } else if (event.key === 'Escape' && useBench.getState().layer) {
        choose({ layer: null });
      }
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
