import { useQuery } from '@tanstack/react-query';
import { Flex } from 'antd';
import { useState } from 'react';
import { api } from '../../api/client';
import type { HandoffReport } from '../../api/contract';
import { Choice } from '../../shared/ui/Choice';
import { useBench } from '../workbench';
import { Beside } from './Beside';
import { Copy } from './Copy';
import { isHeld } from './HeldFile';
import type { Offered } from './formats';
import { Making } from './Making';
import { PlayedLottie } from './PlayedLottie';
import type { Work } from './useJob';

const IMAGE = /(^|\.)(png|gif|webp|svg)$/;
/** More of a text is read in an editor. */
const LONGEST = 60_000;

interface Props {
  id: string;
  version: string;
  format: Offered;
  report: HandoffReport | null;
  options: Record<string, string>;
  work: Work;
}

/** The file itself: played, or its text. */
export function Preview({ id, version, format, report, options, work }: Props) {
  const endings = report?.endings ?? [];
  const [which, setWhich] = useState('');
  const ending = which || endings[0];
  const isPossible = report !== null && !report.refused.length;
  const isMade = work.job?.state === 'done';
  // Of what happens by itself, whatever can be held at a moment is held at that of the stage.
  const moves = useBench((b) => b.run.total_ms > 0);
  const isBeside = moves && !options.of && ending !== undefined && isHeld(ending);
  const size = ending ? work.job?.sizes[ending] : undefined;
  const address = ending && api.handedAddress(id, format.name, ending, version, options);
  return (
    <section className="handed" aria-label="The file itself">
      <header>
        <span>
          <strong>{ending ? `${id}.${ending}` : format.title}</strong>
          {size !== undefined && <span className="quiet"> {readable(size)}</span>}
        </span>
        {endings.length > 1 && (
          <Choice
            aria-label="File"
            value={ending ?? ''}
            onChange={setWhich}
            options={endings.map((each) => ({ value: each, label: each }))}
          />
        )}
      </header>
      <div className="shown">
        {isPossible && !isMade && <Making work={work} />}
        {isPossible && isMade && address && isBeside && (
          <Beside key={address} ending={ending} address={address} title={format.title} part={report.part} />
        )}
        {isPossible && isMade && address && !isBeside && (
          <File key={address} ending={ending} address={address} title={format.title} />
        )}
      </div>
    </section>
  );
}

const readable = (bytes: number) => (bytes < 1e6 ? `${(bytes / 1e3).toFixed(1)} kB` : `${(bytes / 1e6).toFixed(1)} MB`);

interface FileProps {
  ending: string;
  address: string;
  title: string;
}

function File({ ending, address, title }: FileProps) {
  const [isBroken, setBroken] = useState(false);
  const told = { onError: () => setBroken(true) };
  // Alone, markup without its stylesheet shows nothing of it.
  if (ending.endsWith('html') && ending !== 'markup.html')
    return <iframe title={title} src={address} sandbox="allow-scripts" />;
  if (ending === 'krt') return <p className="quiet">These are bytes: they are read by programs alone.</p>;
  if (ending === 'lottie.json')
    return (
      <Flex align="center" justify="center" className="picture-of-it">
        <PlayedLottie address={address} title={title} />
      </Flex>
    );
  if (!IMAGE.test(ending) && ending !== 'webm') return <Text address={address} ending={ending} />;
  return (
    <Flex vertical gap={12} align="center" justify="center" className="picture-of-it">
      {isBroken ? (
        <p role="alert">It cannot be shown here. Download it, or choose smaller pictures.</p>
      ) : ending === 'webm' ? (
        <video src={address} autoPlay loop muted playsInline {...told} />
      ) : (
        <img src={address} alt={`The file: ${title}`} {...told} />
      )}
    </Flex>
  );
}

function Text({ address, ending }: { address: string; ending: string }) {
  const { data, error } = useQuery({ queryKey: ['handed', address], queryFn: () => api.handedText(address) });
  if (error) return <p role="alert">{error.message}</p>;
  if (data === undefined) return null;
  const more = data.length > LONGEST ? `\n… and ${data.length - LONGEST} characters more` : '';
  return (
    <>
      <Copy className="copy" text={data} />
      {/* A long text is scrolled with the keys too. */}
      {/* eslint-disable-next-line jsx-a11y-x/no-noninteractive-tabindex */}
      <pre tabIndex={0}>
        <Code address={address} text={data.slice(0, LONGEST)} ending={ending} />
        {more}
      </pre>
    </>
  );
}

/** In colours as soon as they are there; until then, and where they cannot be had, plain. */
function Code({ address, text, ending }: { address: string; text: string; ending: string }) {
  const { data } = useQuery({
    queryKey: ['marks', address],
    queryFn: async () => (await import('./highlighted')).marksOf(text, ending),
  });
  if (!data) return text;
  return data.map(({ text: part, kind }, i) =>
    kind ? (
      <span key={i} data-kind={kind}>
        {part}
      </span>
    ) : (
      part
    ),
  );
}
