/* What the core says of rehearsing the piece as it is stored: the runtime's tables, and what was kept. */
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Rehearsals } from '../../api/contract';
import { api } from '../../api/client';
import type { Tables } from '../../runtime/data';
import { sayFault, useBench } from './bench';

export interface Rehearsing extends Omit<Rehearsals, 'tables'> {
  tables: Tables;
}

/** The rehearsals of the piece, and what asks for others. */
export function useRehearsals() {
  const id = useBench((b) => b.id);
  const revision = useBench((b) => b.revision);
  const queries = useQueryClient();
  const { data, error } = useQuery({
    queryKey: ['rehearsals', id, revision],
    queryFn: async () => (await api.rehearsals(id)) as unknown as Rehearsing,
    placeholderData: keepPreviousData,
  });
  /** Whether it could be done; what was typed for it stays where it could not. */
  const changed = async (asked: Promise<unknown>): Promise<boolean> => {
    try {
      await asked;
    } catch (fault) {
      sayFault(fault);
      return false;
    }
    await queries.invalidateQueries({ queryKey: ['rehearsals', id] });
    return true;
  };
  return { id, data: data ?? null, error, changed };
}
