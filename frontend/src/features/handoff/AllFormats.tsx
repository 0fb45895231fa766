import { Button } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { api } from '../../api/client';
import { Making } from './Making';
import { useJob } from './useJob';

interface Props {
  id: string;
  version: string;
}

/** All formats in one zip, which is downloaded as soon as it is made. */
export function AllFormats({ id, version }: Props) {
  const [wanted, setWanted] = useState<string | null>(null);
  const isWanted = wanted === version;
  const work = useJob(['all', id, version], (more) => api.beginAll(id, more), isWanted);
  const isMade = isWanted && work.job?.state === 'done';
  const link = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    if (isMade) link.current?.click();
  }, [isMade]);
  return (
    <section className="all" aria-label="All formats">
      {isWanted && !isMade ? (
        <Making work={work} doing="Being made" />
      ) : isMade ? (
        <Button ref={link} href={api.allAddress(id)} download={`${id}.zip`}>
          Download {id}.zip
        </Button>
      ) : (
        <Button onClick={() => setWanted(version)}>All as zip</Button>
      )}
    </section>
  );
}
