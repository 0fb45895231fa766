import { useQuery } from '@tanstack/react-query';
import { Button, Checkbox, Flex, Select } from 'antd';
import { api } from '../../api/client';
import type { HandoffReport } from '../../api/contract';
import { NumberField } from '../../shared/ui/Field';
import { ColourField, EVERY_WAY, useBench, useRehearsals } from '../workbench';
import { isDrawn, type Chosen, type Offered } from './formats';
import { LinkTo } from './LinkTo';
import { Making } from './Making';
import { useJob, type Work } from './useJob';

interface Props {
  id: string;
  format: Offered;
  report: HandoffReport | null;
  fault: Error | null;
  chosen: Chosen;
  setChosen: (chosen: Chosen) => void;
  options: Record<string, string>;
  work: Work;
}

/** What a format holds of the piece, what it leaves out, what may be chosen; and the file. */
export function Told({ id, format, report, fault, chosen, setChosen, options, work }: Props) {
  const refused = report?.refused ?? [];
  const [only] = report?.endings ?? [];
  const stem = options.of ? `${id}.${options.of === EVERY_WAY ? EVERY_WAY : `rehearsal-${options.of}`}` : id;
  const file = `${stem}.${(report?.endings.length ?? 1) > 1 ? `${format.name}.zip` : (only ?? format.name)}`;
  return (
    <Flex component="aside" vertical gap={16} className="told" aria-label="What it holds">
      {fault && <p role="alert">{fault.message}</p>}
      <p className="quiet">{format.holds}</p>
      {report && !refused.length && (
        <section>
          <h2>Holds</h2>
          <p>{report.holds}</p>
        </section>
      )}
      {refused.length > 0 && (
        <div role="alert">
          <p>There is no such file of this piece yet:</p>
          <ul>
            {refused.map(({ message, place, remedy }) => (
              <li key={`${place}${message}`}>
                {message} {remedy}
              </li>
            ))}
          </ul>
        </div>
      )}
      {report && report.leaves_out.length > 0 && <Lines title="Left out" lines={report.leaves_out} />}
      {report && report.said.length > 0 && <Lines title="Said as" lines={report.said} />}
      {work.job?.state === 'done' && format.measured && <Measured id={id} format={format} options={options} />}
      {(isDrawn(format) || format.acted) && <Options format={format} chosen={chosen} setChosen={setChosen} />}
      <Button
        type="primary"
        disabled={!report || refused.length > 0}
        href={api.handoffAddress(id, format.name, options)}
        download={file}
      >
        Download {file}
      </Button>
      {format.name === 'live' && <LinkTo id={id} />}
      {format.name === 'tape' && <PieceFile id={id} />}
    </Flex>
  );
}

function Lines({ title, lines }: { title: string; lines: readonly string[] }) {
  return (
    <section>
      <h2>{title}</h2>
      <ul>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </section>
  );
}

/** How far the file is from what the core computes, played by somebody else. */
function Measured({ id, format, options }: Pick<Props, 'id' | 'format' | 'options'>) {
  const version = useBench((b) => `${b.revision} ${b.holds}`);
  const name = ['measured', id, version, format.name, options];
  const work = useJob(name, (more) => api.beginMeasuring(id, format.name, { ...options, ...more }), true);
  const { data, error } = useQuery({
    queryKey: name,
    queryFn: () => api.measured(id, format.name, options),
    enabled: work.job?.state === 'done',
  });
  return (
    <section aria-label="Measured">
      <h2>Measured</h2>
      {!data && !error && <Making work={work} doing="Being played beside what is computed" />}
      {error && <p role="alert">{error.message}</p>}
      {data?.said && <p>{data.said}</p>}
      {data?.why_not && <p className="quiet">{data.why_not}</p>}
      {data && data.left_out.length > 0 && <p className="quiet">Without these: {data.left_out.join(' ')}</p>}
    </section>
  );
}

type OptionsProps = Pick<Props, 'format' | 'chosen' | 'setChosen'>;

function Options({ format, chosen, setChosen }: OptionsProps) {
  const change = (more: Partial<Chosen>) => {
    setChosen({ ...chosen, ...more });
    return Promise.resolve();
  };
  const plays = usePlays(isDrawn(format));
  const own = useBench((b) => b.document.ground);
  const [first] = plays;
  if (!isDrawn(format) && plays.length < 2) return null;
  return (
    <section>
      <h2>Options</h2>
      {format.acted && plays.length > 1 && (
        <Select
          aria-label="What is played"
          size="small"
          value={plays.some(({ value }) => value === chosen.of) ? chosen.of : first?.value}
          onChange={(of) => void change({ of })}
          options={[...plays]}
        />
      )}
      {isDrawn(format) && (
        <div className="pairs">
          {format.fps !== undefined && (
            <NumberField
              label="per second"
              name="pictures per second"
              value={chosen.fps ?? format.fps}
              commit={(fps) => change({ fps })}
              clear={() => change({ fps: null })}
            />
          )}
          <NumberField label="scale" value={chosen.scale} step={0.5} unit="×" commit={(scale) => change({ scale })} />
          <ColourField
            label="background"
            value={chosen.ground || own || 'none'}
            commit={(ground) => change({ ground })}
            clear={() => change({ ground: '' })}
          />
        </div>
      )}
      {format.still && <Moment at={chosen.at} choose={(at) => change({ at })} />}
      {format.dithers && (
        <Checkbox checked={chosen.dither} onChange={(event) => void change({ dither: event.target.checked })}>
          dither: other colours out of dots
        </Checkbox>
      )}
    </section>
  );
}

interface MomentProps {
  at: number | null;
  choose: (at: number | null) => Promise<void>;
}

/** Of one picture. */
const Moment = ({ at, choose }: MomentProps) => (
  <>
    <Checkbox checked={at === null} onChange={(event) => void choose(event.target.checked ? null : 0)}>
      the state of which most is seen
    </Checkbox>
    {at !== null && <NumberField label="moment" value={at} unit="ms" step={10} commit={choose} />}
  </>
);

/** What may be played: what happens by itself, and what happens in a rehearsal. */
function usePlays(isPicture: boolean): readonly { value: string; label: string }[] {
  const { data } = useRehearsals();
  const moves = useBench((b) => b.run.total_ms > 0);
  const kept = data?.kept.map(({ number, name }) => ({ value: String(number), label: name })) ?? [];
  const acted = data?.made.events.length ? [{ value: EVERY_WAY, label: 'every way once' }] : [];
  // Pictures of what only stands there would say little.
  const byItself = moves || !isPicture || !acted.length ? [{ value: '', label: 'what happens by itself' }] : [];
  return [...byItself, ...acted, ...kept];
}

/** The piece for another shelf, or for the command line. */
function PieceFile({ id }: { id: string }) {
  return (
    <section aria-label="Piece file">
      <h2>The piece itself</h2>
      <p className="quiet">
        One JSON file with all pieces that stand in it. “New piece” on the shelf reads it back, and so does the command
        line.
      </p>
      <Button href={api.pieceAddress(id)} download={`${id}.json`}>
        Download {id}.json
      </Button>
    </section>
  );
}
