import { Button, Flex, Popover } from 'antd';
import { useState, useSyncExternalStore } from 'react';
import { api } from '../../api/client';
import { NumberField } from '../../shared/ui/Field';
import { Swatches } from '../../shared/ui/Swatches';
import { clock, GROUNDS, useBench, useCourse, useWatch } from '../workbench';

const FRESH = 12;
/** A sheet is drawn on one colour. */
const PLAIN = Object.entries(GROUNDS).filter(([, colour]) => colour.startsWith('#'));
const [LEAST, MOST] = [2, 120];

/** Moments of the run, or of the part that is played, on one sheet, to be looked at and taken away. */
export function Filmstrip() {
  return (
    <Popover trigger="click" placement="topRight" destroyOnHidden content={<Strip />}>
      <Button>Filmstrip…</Button>
    </Popover>
  );
}

function Strip() {
  const id = useBench((b) => b.id);
  const revision = useBench((b) => b.revision);
  const fps = useWatch((w) => w.fps);
  const drawn = useSyncExternalStore(clock.onSwitch, () => clock.plays);
  // Transitions that are laid out beside the run have no place in it.
  const part = useCourse((c) => c.run) ? null : drawn;
  const total = useBench((b) => b.run.loop_ms ?? b.run.total_ms);
  const [frames, setFrames] = useState(FRESH);
  const [ground, setGround] = useState('');
  const length = part ? part[1] - part[0] : total;
  const byRate = Math.round((length * fps) / 1000) + (part ? 1 : 0);
  const address = api.filmstripAddress(id, revision, {
    frames,
    ...(ground && { ground }),
    ...(part && { from: part[0], to: part[1] }),
  });
  const set = async (wanted: number) => {
    if (!(wanted >= LEAST && wanted <= MOST)) throw new Error(`A filmstrip has ${LEAST} to ${MOST} frames.`);
    setFrames(Math.round(wanted));
  };
  return (
    <Flex vertical gap={8} className="filmstrip" style={{ width: 'min(860px, 80vw)' }}>
      <Flex gap={8} align="center">
        <NumberField label="frames" name="Frames of the filmstrip" width={130} value={frames} commit={set} />
        <Button
          size="small"
          disabled={byRate < LEAST || byRate > MOST}
          title={
            byRate > MOST ? `That would be ${byRate} frames, and a sheet has ${MOST}: draw a shorter part` : undefined
          }
          onClick={() => setFrames(byRate)}
        >
          each of {fps} fps
        </Button>
        <span className="quiet">
          {part
            ? `${Math.round(part[0])} to ${Math.round(part[1])} ms`
            : 'the whole run; Shift on the ruler draws a part'}
        </span>
        <span className="spring" />
        <Grounds ground={ground} setGround={setGround} />
      </Flex>
      <div className="filmstrip-sheet">
        <img src={address} alt={`Filmstrip of ${frames} frames`} />
      </div>
      <Button type="primary" href={address} download={`${id}-filmstrip.png`}>
        Download the sheet, as PNG
      </Button>
    </Flex>
  );
}

/** Colours that pieces are watched on; none leaves the piece's own. */
const Grounds = ({ ground, setGround }: { ground: string; setGround: (ground: string) => void }) => (
  <Flex gap={4} role="group" aria-label="Ground of the filmstrip">
    <Swatches
      size={18}
      colours={PLAIN}
      chosen={ground}
      choose={(colour) => setGround(ground === colour ? '' : colour)}
    />
  </Flex>
);
