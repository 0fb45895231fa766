import { Button, Flex } from 'antd';
import { useMemo, useSyncExternalStore } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { HandoffReport } from '../../api/contract';
import { LoopView, pictureOf, Ring, RunBar } from '../player';
import { clock, Speeds, useBench, usePlayed, useSize } from '../workbench';
import { followStage } from './held';
import { HeldFile } from './HeldFile';

interface Props {
  address: string;
  ending: string;
  title: string;
  part: HandoffReport['part'];
}

/** px around each, and for its name. */
const [AROUND, NAMED] = [32, 64];

/** The stage and the file, one beside the other, at the same moment. */
export function Beside({ address, ending, title, part }: Props) {
  const picture = useBench(useShallow((b) => pictureOf(b.document, b.layers)));
  const { poses, tape, run } = usePlayed(({ poses, tape, run }) => ({ poses, tape, run }));
  const { ref, size } = useSize<HTMLElement>();
  const { width, height } = picture;
  const zoom = Math.max(Math.min((size.width - AROUND) / width, (size.height - NAMED) / height, 1), 0.05);
  const follow = useMemo(() => followStage(part), [part]);
  return (
    <div className="beside" data-wide={width > height * 1.5 ? '' : undefined}>
      <figure ref={ref}>
        <figcaption>On the stage</figcaption>
        <LoopView piece={picture} poses={poses} run={run} tape={tape} clock={clock} zoom={zoom} />
      </figure>
      <figure>
        <figcaption>The file</figcaption>
        <div style={{ width: width * zoom, height: height * zoom }}>
          <HeldFile
            address={address}
            ending={ending}
            title={title}
            size={{ width, height }}
            zoom={zoom}
            follow={follow}
          />
        </div>
      </figure>
      <Flex component="footer" align="center" gap={10}>
        <PlayOrPause />
        {run.loop_ms === null ? (
          <RunBar run={run} clock={clock} width={220} large />
        ) : (
          <Ring run={run} clock={clock} size={84} large />
        )}
      </Flex>
    </div>
  );
}

function PlayOrPause() {
  const playing = useSyncExternalStore(clock.onSwitch, () => clock.playing);
  const rate = useSyncExternalStore(clock.onSwitch, () => clock.rate);
  return (
    <>
      <Button title="Play or pause (Space)" onClick={() => clock.setPlaying(!playing)} style={{ width: 60 }}>
        {playing ? 'Pause' : 'Play'}
      </Button>
      <Speeds rate={rate} setRate={(wanted) => clock.setRate(wanted)} />
      <span className="spring" />
    </>
  );
}
