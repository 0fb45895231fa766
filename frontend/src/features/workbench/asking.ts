/* What is asked of the server beside edits of the piece. */
import { useQueryClient, type QueryKey } from '@tanstack/react-query';
import { sayFault } from './bench';

/** Waits for what was asked, and lets what is known under `key` be asked anew. Gives whether it could be done: what was
 * typed for it stays where it could not. */
export function useAsking(key: QueryKey): (asked: Promise<unknown>) => Promise<boolean> {
  const queries = useQueryClient();
  return async (asked) => {
    try {
      await asked;
    } catch (fault) {
      sayFault(fault);
      return false;
    }
    await queries.invalidateQueries({ queryKey: key });
    return true;
  };
}
