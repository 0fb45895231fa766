import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { api, ApiFault } from '../../api/client';
import type { JobTold } from '../../api/contract';

const LOOK_EVERY_MS = 300;

export interface Work {
  job: JobTold | null;
  error: Error | null;
  stop: () => Promise<void>;
  again: () => Promise<void>;
}

type Begin = (more: Record<string, string>) => Promise<JobTold>;

export const isUnderWay = (job: JobTold | null | undefined) => job?.state === 'waiting' || job?.state === 'running';

/** A job that is begun as soon as it is wanted, and looked at until it has ended. One that is wanted in another way
 *  before that is stopped: nobody waits for it any more. */
export function useJob(name: readonly unknown[], begin: Begin, wanted: boolean): Work {
  const client = useQueryClient();
  const key = ['job', ...name];
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: () => looked(client.getQueryData<JobTold>(key), begin),
    enabled: wanted,
    refetchInterval: ({ state }) => (isUnderWay(state.data) ? LOOK_EVERY_MS : false),
  });
  const job = data ?? null;
  useStopOfTheLast(job);
  return {
    job,
    error,
    stop: async () => void client.setQueryData(key, job && (await api.stopJob(job.id))),
    again: async () => void client.setQueryData(key, await begin({ again: '1' })),
  };
}

async function looked(known: JobTold | undefined, begin: Begin): Promise<JobTold> {
  if (!known || !isUnderWay(known)) return begin({});
  try {
    return await api.job(known.id);
  } catch (fault) {
    // It is not kept any more.
    if (fault instanceof ApiFault && fault.status === 404) return begin({});
    throw fault;
  }
}

function useStopOfTheLast(job: JobTold | null) {
  const last = useRef(job);
  useEffect(() => {
    const before = last.current;
    if (before && job && before.id !== job.id && isUnderWay(before)) void api.stopJob(before.id);
    if (job) last.current = job;
  }, [job]);
}
