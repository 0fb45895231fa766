import { useMemo, type PointerEvent } from 'react';
import type { Run } from '../../api/contract';
import { useHeld } from '../../shared/ui/useHeld';
import { attempt, edits, sayFault, transitionNamed, useBench } from '../workbench';
import type { Scale } from './Sheet';
import { stretchedWay } from './wayEdits';
import { known } from '../../shared/known';

type Pointer = PointerEvent<SVGSVGElement>;
export type Hands = Partial<Record<'onPointerDown' | 'onPointerMove' | 'onPointerUp', (event: Pointer) => void>>;
/** They take what is pressed on a segment. */
export type SegmentHands = Hands & { takes: (event: Pointer) => boolean };

/** A transition that is pulled: later, by the hold before it, or longer, with all that moves in it. */
interface HeldWay {
  way: string;
  part: 'hold' | 'length' | null;
  by_ms: number;
}

/** px: a press that moves less is a click. */
const LEAST_PULL = 3;
const SHORTEST_MS = 10;

/** Transitions are pulled by their bodies and ends, and a rest by its end; a click on a segment chooses its transition. */
export function useWayPull(run: Run, scale: Scale, choose: (way: string) => void) {
  const { shown, held, hold } = useHeld<HeldWay & { x: number; released: boolean }>();
  const wayOf = (event: PointerEvent) => (event.target as Element).closest('[data-way]')?.getAttribute('data-way');
  const takes = (event: PointerEvent) =>
    event.type === 'pointerdown' ? !event.shiftKey && !!wayOf(event) && event.button === 0 : held() !== null;
  const onPointerDown = (event: PointerEvent<SVGSVGElement>) => {
    const way = wayOf(event);
    if (!way || held()) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    hold({ way, part: partOf(event.target as Element), by_ms: 0, x: event.clientX, released: false });
  };
  const onPointerMove = (event: PointerEvent) => {
    const now = held();
    if (!now?.part || now.released) return;
    const by = scale.ms(scale.x(0) + event.clientX - now.x);
    if (Math.abs(event.clientX - now.x) < LEAST_PULL && !now.by_ms) return;
    const [long, least] = now.part === 'hold' ? [restOf(now.way), 0] : [lengthOf(now.way), SHORTEST_MS];
    const to = event.ctrlKey ? Math.round(long + by) : Math.round((long + by) / 10) * 10;
    hold({ ...now, by_ms: Math.max(to, least) - long });
  };
  const onPointerUp = (event: PointerEvent) => {
    const now = held();
    if (!now || now.released) return;
    if (!now.by_ms) {
      hold(null);
      if (Math.abs(event.clientX - now.x) < LEAST_PULL) choose(now.way);
      return;
    }
    // Shown so until the edit is made.
    hold({ ...now, released: true });
    void pulled(now).finally(() => hold(null));
  };
  // What comes after it stands as it will then.
  const after = useMemo(() => (shown?.by_ms ? shiftedBy(run, scale, shown) : scale), [run, scale, shown]);
  return { after, hands: { takes, onPointerDown, onPointerMove, onPointerUp } };
}

function partOf(target: Element): HeldWay['part'] {
  if (target.hasAttribute('data-way-end')) return 'length';
  // A rest is pulled by its end alone; what is written on a transition is of its body.
  return target.classList.contains('segment') ? null : 'hold';
}

const restOf = (way: string) => transitionNamed(useBench.getState().document, way).hold_ms ?? 0;
const lengthOf = (way: string) => useBench.getState().readings[way]?.length_ms ?? 0;

async function pulled({ way, part, by_ms }: HeldWay): Promise<void> {
  const { document: piece, readings } = useBench.getState();
  if (part === 'hold') {
    await attempt(edits.setTransition(piece, way, 'Hold', { hold_ms: restOf(way) + by_ms, early_ms: 0 }));
    return;
  }
  try {
    await attempt(await stretchedWay(piece, known(readings[way]), way, lengthOf(way) + by_ms));
  } catch (fault) {
    sayFault(fault);
  }
}

function shiftedBy(run: Run, scale: Scale, { way, part, by_ms }: HeldWay): Scale {
  const passed = run.segments.filter((segment, i) => segment.kind === 'travel' && run.transitions[i] === way);
  const share = (ms: number, from: number, to: number) =>
    part === 'hold' ? Number(ms >= from - 1e-6) : Math.min(Math.max((ms - from) / Math.max(to - from, 1), 0), 1);
  const later = (ms: number) =>
    passed.reduce((sum, { start_ms, end_ms }) => sum + by_ms * share(ms, start_ms, end_ms), ms);
  return { ...scale, x: (ms) => scale.x(later(ms)) };
}
