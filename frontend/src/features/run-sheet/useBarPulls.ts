import { useMemo, type KeyboardEvent, type PointerEvent } from 'react';
import type { Piece } from '../../api/contract';
import { pulling } from '../../shared/ui/pulling';
import { useHeld } from '../../shared/ui/useHeld';
import { clock, useBench } from '../workbench';
import { endsBeside, snapped, type Bar, type Snap } from './model';
import { followersIn, placesOf, roomOf, type Places, type Pull } from './places';
import { keysPressed, Pulls } from './pulls';
import type { Scale } from './Sheet';
import { lastOf } from '../../shared/known';

/** px on the screen within which ends snap */
const REACH = 6;
const ARROWS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1 };

interface Held extends Pull {
  pressed: Bar;
  keys: readonly string[];
  from_ms: number;
  /** What keeps it from going further; empty as long as nothing does. */
  stopped: string;
}

/** What is in the hand: where all bars stand that it moves, and what stops it. */
export interface Pulled {
  places: Places;
  stopped: string;
}

interface Options {
  bars: readonly Bar[];
  chosen: readonly string[];
  choose: (keys: readonly string[]) => void;
  snap: Snap;
  scale: Scale;
}

/** Bars in the hand: chosen by a press, pulled as a whole or by an end, moved by arrow keys. */
export function useBarPulls({ bars, chosen, choose, snap, scale }: Options) {
  const { shown, held, hold } = useHeld<Held>();
  const transitions = useBench((b) => b.document.transitions);
  const pulls = useMemo(() => new Pulls(), []);
  const barAt = (target: EventTarget) => {
    const key = (target as Element).closest('[data-bar]')?.getAttribute('data-bar');
    return bars.find((bar) => bar.key === key);
  };
  const msAt = (event: PointerEvent<SVGSVGElement>) =>
    scale.ms(event.clientX - event.currentTarget.getBoundingClientRect().left);
  const barsOf = (keys: readonly string[]) => bars.filter((bar) => keys.includes(bar.key));

  const press = (event: PointerEvent<SVGSVGElement>) => {
    const bar = barAt(event.target);
    if (!bar || event.button !== 0) return false;
    const part = ((event.target as Element).getAttribute('data-end') ?? 'move') as Pull['part'];
    const isHeld = part !== 'move' && chosen.includes(bar.key);
    const keys = isHeld ? chosen : keysPressed(chosen, bar.key, event.shiftKey);
    choose(keys);
    if (event.shiftKey && !isHeld) return true;
    const edge_ms = part === 'end' ? bar.end_ms : bar.start_ms;
    hold({ pressed: bar, keys, part, by_ms: 0, alone: event.altKey, from_ms: msAt(event), edge_ms, stopped: '' });
    return true;
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    const now = held();
    if (!now) return;
    const reach = scale.ms(scale.x(0) + REACH);
    const wanted = snappedBy(msAt(event) - now.from_ms, now, bars, event.ctrlKey ? '10 ms' : snap, reach);
    const { by_ms, stopped } = kept(wanted, now, barsOf(now.keys), transitions ?? []);
    hold({ ...now, by_ms, stopped });
  };
  const release = async () => {
    const now = held();
    if (now && now.by_ms !== 0) await pulls.add(now.keys, now);
    if (held() === now) hold(null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = ARROWS[event.key];
    const bar = barAt(event.target);
    if (!by || !bar) return;
    event.preventDefault();
    event.stopPropagation();
    const keys = chosen.includes(bar.key) ? chosen : [bar.key];
    choose(keys);
    const part = event.altKey ? 'end' : 'move';
    const step = event.shiftKey ? 100 : event.ctrlKey ? 1 : 10;
    void pulls.add(keys, { part, by_ms: by * step, alone: false, edge_ms: bar.end_ms });
  };
  const pulled = usePulled(shown, bars, transitions);
  const hands = { ...pulling({ press, move, release: () => void release(), giveUp: () => hold(null) }), onKeyDown };
  return { pulled, hands };
}

/** How far what is held goes, snapped; to ends both edges of a bar that is moved are: the one that is nearer to some. */
function snappedBy(
  by: number,
  { pressed, part, edge_ms, keys }: Held,
  bars: readonly Bar[],
  snap: Snap,
  reach: number,
) {
  const ends = [pressed.base_ms, clock.moment, ...endsBeside(bars, keys)];
  const edges = part === 'move' && snap === 'ends' ? [pressed.start_ms, pressed.end_ms] : [edge_ms];
  const found = edges.map((edge) => snapped(edge + by, snap, ends, reach) - edge);
  return found.reduce((best, each) => (Math.abs(each - by) < Math.abs(best - by) ? each : best));
}

/** Where everything stands that is moved by what is held. */
function usePulled(held: Held | null, bars: readonly Bar[], transitions: Piece['transitions']): Pulled | null {
  const follow = useMemo(() => followersIn(transitions ?? [], bars), [transitions, bars]);
  return useMemo(() => {
    if (!held) return null;
    const pulled = bars.filter((bar) => held.keys.includes(bar.key));
    return { places: follow(placesOf(pulled, held), held.alone), stopped: held.stopped };
  }, [held, bars, follow]);
}

/** As far as what is pulled may go, and what stops it there. */
function kept(
  by_ms: number,
  { part, pressed, edge_ms }: Held,
  pulled: readonly Bar[],
  transitions: Parameters<typeof roomOf>[0],
): { by_ms: number; stopped: string } {
  if (part === 'end') {
    const least = 1 - (pressed.end_ms - pressed.start_ms);
    return {
      by_ms: Math.max(by_ms, pulled.length > 1 ? Math.min(...pulled.map((bar) => bar.start_ms)) + 1 - edge_ms : least),
      stopped: '',
    };
  }
  const { least, most, by } = roomOf(transitions, part === 'start' && pulled.length === 1 ? [lastOf(pulled)] : pulled);
  const shortest = part === 'start' && pulled.length === 1 ? pressed.end_ms - pressed.start_ms - 1 : Infinity;
  const to = Math.min(Math.max(by_ms, least), most, shortest);
  const isHeldBack = by_ms < least || by_ms > most;
  return { by_ms: to, stopped: isHeldBack ? `held by ${by}` : '' };
}
