import { useQuery } from '@tanstack/react-query';
import { Flex } from 'antd';
import { useState } from 'react';
import { api } from '../../api/client';
import type { HandoffReport } from '../../api/contract';
import { Choice } from '../../shared/ui/Choice';
import { Copy } from './Copy';
import type { Offered } from './formats';
import { PlayedLottie } from './PlayedLottie';

const IMAGE = /(^|\.)(png|gif|webp|svg)$/;
/** More of a text is read in an editor. */
const LONGEST = 60_000;

interface Props {
  id: string;
  version: string;
  format: Offered;
  report: HandoffReport | null;
  options: Record<string, string>;
}

/** The file itself: played, or its text. */
export function Preview({ id, version, format, report, options }: Props) {
  const endings = report?.endings ?? [];
  const [which, setWhich] = useState('');
  const ending = which || endings[0];
  const address = ending && api.handedAddress(id, format.name, ending, version, options);
  return (
    <section className="handed" aria-label="The file itself">
      <header>
        <strong>{ending ? `${id}.${ending}` : format.title}</strong>
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
        {address && !report?.refused.length ? (
          <File key={address} ending={ending} address={address} title={format.title} />
        ) : null}
      </div>
    </section>
  );
}

interface FileProps {
  ending: string;
  address: string;
  title: string;
}

function File({ ending, address, title }: FileProps) {
  const [state, setState] = useState<'made' | 'shown' | 'failed'>('made');
  const told = { onError: () => setState('failed') };
  const shown = () => setState('shown');
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
      {state === 'made' && <p role="status">Being made…</p>}
      {state === 'failed' && <p role="alert">It could not be made. Choose fewer pictures a second, or smaller ones.</p>}
      {state === 'failed' ? null : ending === 'webm' ? (
        <video src={address} autoPlay loop muted playsInline onLoadedData={shown} {...told} />
      ) : (
        <img src={address} alt={`The file: ${title}`} onLoad={shown} {...told} />
      )}
    </Flex>
  );
}

function Text({ address, ending }: { address: string; ending: string }) {
  const { data, error } = useQuery({ queryKey: ['handed', address], queryFn: () => api.handedText(address) });
  if (error) return <p role="alert">{error.message}</p>;
  if (data === undefined) return <p role="status">Being made…</p>;
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
