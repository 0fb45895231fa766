import { useState } from 'react';
import { useHeld } from '../../../shared/ui/useHeld';

/** What is in the hand, and why it goes no further; given up, nothing of that stays. */
export function useLimited<T>() {
  const [limit, setLimit] = useState('');
  const giveUp = () => {
    setLimit('');
    hold(null);
  };
  const { shown, held, hold } = useHeld<T>({ giveUp });
  return { shown, held, hold, giveUp, limit, setLimit };
}
