import { Button, Flex, Progress } from 'antd';
import type { JobTold } from '../../api/contract';
import type { Work } from './useJob';

interface Props {
  work: Work;
  /** What is being done. */
  doing?: string;
}

/** How far something is that is being made; why it is not, where it could not be. */
export function Making({ work: { job, error, stop, again }, doing = 'Being made' }: Props) {
  const fault = job?.fault ?? null;
  return (
    <Flex vertical gap={8} align="center" justify="center" className="making">
      {error && <p role="alert">{error.message}</p>}
      {job?.state === 'failed' && (
        <p role="alert">
          {fault?.message} {fault?.remedy}
        </p>
      )}
      {job?.state === 'stopped' && <p role="status">Stopped.</p>}
      {job && ['failed', 'stopped'].includes(job.state) ? (
        <Button onClick={() => void again()}>{job.state === 'failed' ? 'Try again' : 'Make it'}</Button>
      ) : error ? null : (
        <>
          <p role="status">{said(job, doing)}</p>
          {job && job.share > 0 && <Progress percent={Math.min(Math.floor(job.share * 100), 99)} size="small" />}
          {job && (
            <Button size="small" onClick={() => void stop()}>
              Stop
            </Button>
          )}
        </>
      )}
    </Flex>
  );
}

function said(job: JobTold | null, doing: string): string {
  if (job?.state === 'waiting' && job.ahead > 0)
    return `Waits for ${job.ahead === 1 ? 'another one' : `${job.ahead} others`}…`;
  if (job?.is_left_alone) return 'Waits for a worker: is “keen-ripple work” running?';
  return job?.left_s == null ? `${doing}…` : `${doing}: ${left(job.left_s)} left`;
}

const left = (seconds: number) =>
  seconds < 90 ? `about ${Math.max(Math.round(seconds), 1)} s` : `about ${Math.round(seconds / 60)} min`;
