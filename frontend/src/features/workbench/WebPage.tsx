import { useQuery } from '@tanstack/react-query';
import { Button, Flex } from 'antd';
import type { HandoffReport } from '../../api/contract';
import { api } from '../../api/client';
import { useBench } from './bench';
import { isByAPerson } from './cues';
import { EVERY_WAY, useNoFilm } from './rehearsals';

const FORMATS = [
  {
    name: 'html',
    title: 'Web page',
    ending: 'html',
    holds:
      'One HTML file without script: CSS keyframes, springs as linear(), fonts inside, and a calmer version for people who ask for less motion.',
  },
  {
    name: 'live',
    title: 'Live page',
    ending: 'live.html',
    holds:
      'One HTML file that answers to pointer, touch and keys, with everything inside, and a calmer version. Its element can be told to go to a state.',
  },
] as const;

/** The piece as files for the browser: what each holds and what not is said before it is made. */
export function WebPages() {
  const id = useBench((b) => b.id);
  const version = useBench((b) => `${b.revision} ${b.holds}`);
  const { data, error } = useQuery({ queryKey: ['handoffs', id, version], queryFn: () => api.handoffs(id) });
  return (
    <Flex vertical gap={16} className="handoff" style={{ width: 290 }}>
      {error && <p role="alert">{error.message}</p>}
      {FORMATS.map((format) => (
        <WebPage
          key={format.name}
          id={id}
          format={format}
          report={data?.formats.find(({ name }) => name === format.name) ?? null}
        />
      ))}
      <Film id={id} />
      <PieceFile id={id} />
    </Flex>
  );
}

/** Of a piece that waits for somebody: what would happen, played. */
function Film({ id }: { id: string }) {
  const waits = useBench((b) => (b.document.transitions ?? []).some(({ cue }) => isByAPerson(cue ?? 'hold')));
  const refused = useNoFilm(EVERY_WAY, waits);
  if (!waits) return null;
  return (
    <Flex component="section" vertical gap={8} aria-label="Every way once">
      <strong>Every way once</strong>
      <span className="quiet">
        A web page that plays what the piece does when each of its cues is given once. Others are had from Rehearse.
      </span>
      {refused && <p role="alert">There is no such page of this piece yet: {refused}</p>}
      <Button type="primary" disabled={refused !== ''} href={api.rehearsalAddress(id, EVERY_WAY, 'film.html')} download>
        Download {id}.every-way-once.html
      </Button>
    </Flex>
  );
}

/** The piece for another shelf, or for the command line. */
function PieceFile({ id }: { id: string }) {
  return (
    <Flex component="section" vertical gap={8} aria-label="Piece file">
      <strong>The piece itself</strong>
      <span className="quiet">
        One JSON file with all pieces that stand in it. “New piece” on the shelf reads it back, and so does the command
        line.
      </span>
      <Button href={api.pieceAddress(id)} download={`${id}.json`}>
        Download {id}.json
      </Button>
    </Flex>
  );
}

interface Props {
  id: string;
  format: (typeof FORMATS)[number];
  report: HandoffReport | null;
}

function WebPage({ id, format, report }: Props) {
  const refused = report?.refused ?? [];
  const file = `${id}.${format.ending}`;
  return (
    <Flex component="section" vertical gap={8} aria-label={format.title}>
      <strong>{format.title}</strong>
      <span className="quiet">{format.holds}</span>
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
        href={api.handoffAddress(id, format.name)}
        download={file}
      >
        Download {file}
      </Button>
    </Flex>
  );
}
