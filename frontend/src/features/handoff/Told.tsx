import { Button, Flex } from 'antd';
import { api } from '../../api/client';
import type { HandoffReport } from '../../api/contract';
import { NumberField } from '../../shared/ui/Field';
import { EVERY_WAY, isByAPerson, useBench, useNoFilm } from '../workbench';
import type { Chosen, Offered } from './formats';

interface Props {
  id: string;
  format: Offered;
  report: HandoffReport | null;
  fault: Error | null;
  chosen: Chosen;
  setChosen: (chosen: Chosen) => void;
  options: Record<string, string>;
}

/** What a format holds of the piece, what it leaves out, what may be chosen; and the file. */
export function Told({ id, format, report, fault, chosen, setChosen, options }: Props) {
  const refused = report?.refused ?? [];
  const [only] = report?.endings ?? [];
  const file = `${id}.${report?.endings.length === 1 ? only : `${format.name}.zip`}`;
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
      {report && report.leaves_out.length > 0 && (
        <section>
          <h2>Left out</h2>
          <ul>
            {report.leaves_out.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
      )}
      {format.fps !== undefined && <OfPictures usual={format.fps} chosen={chosen} setChosen={setChosen} />}
      <Button
        type="primary"
        disabled={!report || refused.length > 0}
        href={api.handoffAddress(id, format.name, options)}
        download={file}
      >
        Download {file}
      </Button>
      {format.name === 'html' && <Film id={id} />}
      {format.name === 'tape' && <PieceFile id={id} />}
    </Flex>
  );
}

interface OfPicturesProps {
  usual: number;
  chosen: Chosen;
  setChosen: (chosen: Chosen) => void;
}

function OfPictures({ usual, chosen, setChosen }: OfPicturesProps) {
  const change = (more: Partial<Chosen>) => {
    setChosen({ ...chosen, ...more });
    return Promise.resolve();
  };
  return (
    <section>
      <h2>Options</h2>
      <div className="pairs">
        <NumberField
          label="per second"
          name="pictures per second"
          value={chosen.fps ?? usual}
          commit={(fps) => change({ fps })}
          clear={() => change({ fps: null })}
        />
        <NumberField label="scale" value={chosen.scale} step={0.5} unit="×" commit={(scale) => change({ scale })} />
      </div>
    </section>
  );
}

/** Of a piece that waits for somebody: what would happen, played. */
function Film({ id }: { id: string }) {
  const waits = useBench((b) => (b.document.transitions ?? []).some(({ cue }) => isByAPerson(cue ?? 'hold')));
  const refused = useNoFilm(EVERY_WAY, waits);
  if (!waits) return null;
  return (
    <section aria-label="Every way once">
      <h2>Every way once</h2>
      <p className="quiet">
        A web page that plays what the piece does when each of its cues is given once. Others are had from Rehearse.
      </p>
      {refused && <p role="alert">There is no such page of this piece yet: {refused}</p>}
      <Button disabled={refused !== ''} href={api.rehearsalAddress(id, EVERY_WAY, 'film.html')} download>
        Download {id}.every-way-once.html
      </Button>
    </section>
  );
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
