import { useMemo, type PointerEvent } from 'react';
import type { Run } from '../../api/contract';
import { useHeld } from '../../shared/ui/useHeld';
import { attempt, edits, transitionNamed, useBench } from '../workbench';
import { wayAfter } from './model';
import type { Scale } from './Sheet';

type Pointer = PointerEvent<SVGSVGElement>;
export type Hands = Partial<Record<'onPointerDown' | 'onPointerMove' | 'onPointerUp', (event: Pointer) => void>>;
/** They take what is pressed on a segment. */
export type SegmentHands = Hands & { takes: (event: Pointer) => boolean };

/** A rest whose end is pulled. */
interface HeldRest {
  way: string;
  by_ms: number;
}

/** px: a press that moves less is a click. */
const LEAST_PULL = 3;

/** Rests are pulled by their ends; a click on a segment chooses its transition. */
export function useRestPull(run: Run, scale: Scale, choose: (way: string) => void) {
  const { shown, held, hold } = useHeld<HeldRest & { x: number; rest: boolean }>();
  const wayOf = (event: PointerEvent) => (event.target as Element).closest('[data-way]')?.getAttribute('data-way');
  const takes = (event: PointerEvent) =>
    event.type === 'pointerdown' ? !event.shiftKey && !!wayOf(event) && event.button === 0 : held() !== null;
  const onPointerDown = (event: PointerEvent<SVGSVGElement>) => {
    const way = wayOf(event);
    if (!way) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    hold({ way, by_ms: 0, x: event.clientX, rest: (event.target as Element).hasAttribute('data-rest') });
  };
  const onPointerMove = (event: PointerEvent) => {
    const now = held();
    if (!now?.rest) return;
    const hold_ms = restOf(now.way);
    const by = scale.ms(scale.x(0) + event.clientX - now.x);
    const to = event.ctrlKey ? Math.round(hold_ms + by) : Math.round((hold_ms + by) / 10) * 10;
    hold({ ...now, by_ms: Math.max(to, 0) - hold_ms });
  };
  const onPointerUp = (event: PointerEvent) => {
    const now = held();
    hold(null);
    if (!now) return;
    if (now.by_ms) void attempt(edits.setTransition(useBench.getState().document, now.way, 'Hold', holdOf(now)));
    else if (Math.abs(event.clientX - now.x) < LEAST_PULL) choose(now.way);
  };
  // What comes after it stands as it will then.
  const after = useMemo(() => (shown?.by_ms ? shiftedBy(run, scale, shown) : scale), [run, scale, shown]);
  return { after, hands: { takes, onPointerDown, onPointerMove, onPointerUp } };
}

const restOf = (way: string) => transitionNamed(useBench.getState().document, way).hold_ms ?? 0;
const holdOf = ({ way, by_ms }: HeldRest) => ({ hold_ms: restOf(way) + by_ms, early_ms: 0 });

function shiftedBy(run: Run, scale: Scale, { way, by_ms }: HeldRest): Scale {
  const ends = run.segments.flatMap((segment, i) =>
    segment.kind === 'hold' && wayAfter(run, i) === way ? [segment.end_ms] : [],
  );
  const later = (ms: number) => ms + by_ms * ends.filter((end) => end <= ms + 1e-6).length;
  return { ...scale, x: (ms) => scale.x(later(ms)) };
}
