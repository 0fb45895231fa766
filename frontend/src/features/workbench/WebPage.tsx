import { useQuery } from '@tanstack/react-query';
import { Button, Flex } from 'antd';
import { api } from '../../api/client';
import { useBench } from './bench';

/** The piece as one file for the browser: what it holds and what not is said before it is made. */
export function WebPage() {
  const id = useBench((b) => b.id);
  const revision = useBench((b) => b.revision);
  const { data, error } = useQuery({ queryKey: ['handoffs', id, revision], queryFn: () => api.handoffs(id) });
  const report = data?.formats.find((format) => format.name === 'html');
  const refused = report?.refused ?? [];
  return (
    <Flex vertical gap={8} className="handoff" style={{ width: 270 }}>
      <strong>Web page</strong>
      <span className="quiet">
        One HTML file without script: CSS keyframes, springs as linear(), fonts inside, and a calmer version for people
        who ask for less motion.
      </span>
      {error && <p role="alert">{error.message}</p>}
      {report && !refused.length && <span className="quiet">{report.holds}</span>}
      {refused.length > 0 && (
        <div role="alert">
          <p>There is no such page of this piece yet:</p>
          <ul>
            {refused.map(({ message, place, remedy }) => (
              <li key={`${place}${message}`}>
                {message} {remedy}
              </li>
            ))}
          </ul>
        </div>
      )}
      {report && report.leaves_out.length > 0 && (
        <>
          <p>Left out:</p>
          <ul className="quiet">
            {report.leaves_out.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </>
      )}
      <Button
        type="primary"
        disabled={!report || refused.length > 0}
        href={api.handoffAddress(id, 'html')}
        download={`${id}.html`}
      >
        Download {id}.html
      </Button>
    </Flex>
  );
}
