import { useEffect } from 'react';
import { api } from '../../api/client';
import { useHands } from '../../shared/ui/hands';
import { follow, queue, useBench } from './bench';
import { isLater, useWaiting } from './queue';

/** Between two looks at what the server has. */
const LOOK_MS = 600;

/** Hears of what other windows make of the piece, and of a server that is away or back again. */
export function useFollowing(id: string): void {
  useEffect(() => {
    let timer = 0;
    let left = false;
    const look = async () => {
      try {
        if (!document.hidden) await hear(id);
      } finally {
        if (!left) timer = window.setTimeout(() => void look(), LOOK_MS);
      }
    };
    timer = window.setTimeout(() => void look(), LOOK_MS);
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [id]);
}

async function hear(id: string): Promise<void> {
  try {
    const { revision, holds } = await api.revision(id);
    if (useWaiting.getState().away) {
      useWaiting.setState({ away: false });
      queue.retry();
    }
    const shown = useBench.getState();
    // What stands in the piece may have changed alone.
    const isNewer = (revision > shown.revision || holds !== shown.holds) && queue.isEmpty;
    useWaiting.setState({ newer: isNewer && useHands.getState().busy > 0 });
    if (isNewer && !useHands.getState().busy && !useBench.getState().conflict) await follow(id);
  } catch (error) {
    if (isLater(error)) useWaiting.setState({ away: true });
  }
}
