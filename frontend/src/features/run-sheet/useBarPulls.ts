import { useMemo, type KeyboardEvent, type PointerEvent } from 'react';
import { pulling } from '../../shared/ui/pulling';
import { useHeld } from '../../shared/ui/useHeld';
import type { Pull } from './barEdits';
import { endsBeside, snapped, type Bar, type Snap } from './model';
import { keysPressed, Pulls } from './pulls';
import type { Scale } from './Sheet';

/** px on the screen within which ends snap */
const REACH = 6;
const ARROWS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1 };

interface Held extends Pull {
  pressed: Bar;
  keys: readonly string[];
  from_ms: number;
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
  const pulls = useMemo(() => new Pulls(), []);
  const barAt = (target: EventTarget) => {
    const key = (target as Element).closest('[data-bar]')?.getAttribute('data-bar');
    return bars.find((bar) => bar.key === key);
  };
  const msAt = (event: PointerEvent<SVGSVGElement>) =>
    scale.ms(event.clientX - event.currentTarget.getBoundingClientRect().left);

  const press = (event: PointerEvent<SVGSVGElement>) => {
    const bar = barAt(event.target);
    if (!bar || event.button !== 0) return false;
    const keys = keysPressed(chosen, bar.key, event.shiftKey);
    choose(keys);
    if (event.shiftKey) return true;
    const part = ((event.target as Element).getAttribute('data-end') ?? 'move') as Pull['part'];
    const pulled = part === 'move' ? keys : [bar.key];
    hold({ pressed: bar, keys: pulled, part, by_ms: 0, alone: event.altKey, from_ms: msAt(event) });
    return true;
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    const now = held();
    if (!now) return;
    const bar = now.pressed;
    const edge = now.part === 'end' ? bar.end_ms : bar.start_ms;
    const ends = [bar.base_ms, ...endsBeside(bars, now.keys)];
    const to = snapped(edge + msAt(event) - now.from_ms, event.ctrlKey ? '10' : snap, ends, scale.ms(REACH));
    hold({ ...now, by_ms: Math.max(to, bar.base_ms) - edge });
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
    void pulls.add(keys, { part, by_ms: by * (event.shiftKey ? 100 : 10), alone: false });
  };
  const hands = { ...pulling({ press, move, release: () => void release(), giveUp: () => hold(null) }), onKeyDown };
  return { pulled: shown, hands };
}
