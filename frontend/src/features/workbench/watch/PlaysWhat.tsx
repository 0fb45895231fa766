import { Flex } from 'antd';
import { Chip } from '../../../shared/ui/Chip';
import { useBench } from '../bench';
import { playWays, useCourse } from '../course';

/** The run, or every transition: those that wait for somebody too. */
export function PlaysWhat() {
  const ways = useCourse((c) => c.ways);
  const count = useBench((b) => b.document.transitions?.length ?? 0);
  return (
    <Flex gap={4} role="group" aria-label="What plays">
      <Chip pressed={!ways} title="What plays by itself" onClick={() => playWays(null)}>
        the run
      </Chip>
      <Chip
        pressed={ways === 'all'}
        disabled={!count}
        title="Every transition once, also those that wait for somebody"
        onClick={() => playWays('all')}
      >
        all transitions
      </Chip>
    </Flex>
  );
}
