/* What the core says of rehearsing the piece as it is stored: the runtime's tables, and what was kept. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { Rehearsals } from '../../api/contract';
import { api } from '../../api/client';
import type { Tables } from '../../runtime/data';
import { useAsking } from './asking';
import { useBench } from './bench';

export interface Rehearsing extends Omit<Rehearsals, 'tables'> {
  tables: Tables;
}

/** What the server calls the rehearsal that the core makes. */
export const EVERY_WAY = 'every-way-once';

/** The rehearsals of the piece, and what asks for others. */
export function useRehearsals(wanted = true) {
  const id = useBench((b) => b.id);
  const version = useBench((b) => `${b.revision} ${b.holds}`);
  const changed = useAsking(['rehearsals', id]);
  const { data, error } = useQuery({
    queryKey: ['rehearsals', id, version],
    queryFn: async () => (await api.rehearsals(id)) as unknown as Rehearsing,
    placeholderData: keepPreviousData,
    enabled: wanted,
  });
  return { id, data: data ?? null, error, changed };
}
