import { Flex } from 'antd';
import { useEffect, useMemo, type ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Pose, Run } from '../../api/contract';
import { Clock, LoopView, pictureOf, Ring, RunBar, seconds, type Tape } from '../player';
import { clock, playedRun, useBench, useSize } from '../workbench';
import { follow, inStep, type Step } from './inStep';

interface Props {
  name: string;
  computed: { poses: Record<string, Pose>; run: Run; tape: Tape };
  step: Step;
  /** The one whose clock all others follow. */
  leads?: boolean;
  children?: ReactNode;
}

/** One timing of the piece, playing in step with the others. */
export function Playing({ name, computed, step, leads = false, children }: Props) {
  const picture = useBench(useShallow((b) => pictureOf(b.document, b.layers)));
  const { poses, run, tape } = computed;
  const { ref, size } = useSize<HTMLDivElement>();
  const own = useMemo(() => (leads ? clock : new Clock()), [leads]);
  useEffect(() => (leads ? undefined : follow(clock, playedRun, own, run, step)), [leads, own, run, step]);
  const zoom = Math.max(Math.min((size.width - 40) / picture.width, (size.height - 30) / picture.height, 2), 0.05);
  // Whichever is scrubbed, the leading clock goes there, and all others with it.
  const lead = (moment: number) => clock.seek(leads ? moment : inStep(moment, moment, run, playedRun(), step));
  const scrubbed = { run, clock: own, name, seek: lead };
  return (
    <Flex vertical component="section" className="take" aria-label={name} data-take={name}>
      <div className="take-stage" ref={ref}>
        <LoopView piece={picture} poses={poses} run={run} tape={tape} clock={own} zoom={zoom} />
      </div>
      <Flex component="footer" align="center" gap={8}>
        {run.loop_ms === null ? <RunBar {...scrubbed} width={90} /> : <Ring {...scrubbed} size={40} />}
        <span className="named">
          <strong className="ellipsis">{name}</strong>
          <span className="mono quiet">
            {seconds(run.loop_ms ?? run.total_ms)} s {run.loop_ms === null ? 'once' : 'loop'}
          </span>
        </span>
        <span className="spring" />
        {children}
      </Flex>
    </Flex>
  );
}
