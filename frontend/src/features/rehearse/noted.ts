/* A rehearsal on an axis of time: what was in motion when, and what was done. */
import type { Event, Heard, Tables } from '../../runtime/data';
import type { Motion } from '../../runtime/motion';
import { Cast } from '../../runtime/cast';
import type { Stage, Taken } from '../../runtime/stage';

/** A layer in motion. */
export interface Bar {
  readonly layer: string;
  readonly start_ms: number;
  end_ms: number;
}

/** A way from state to state; at rest before the next. */
export interface Way {
  readonly from: string;
  readonly to: string;
  readonly start_ms: number;
  end_ms: number;
}

export interface Done {
  readonly t_ms: number;
  readonly what: string;
  readonly heeded: boolean;
}

/** How long the last state is shown. */
const AFTER_MS = 500;
/** More of each are not drawn: the oldest go first. */
const MOST = 2000;

type Open = Map<number, { motion: Motion; bar: Bar }>;

export class Noted {
  readonly bars: Bar[] = [];
  readonly ways: Way[] = [];
  readonly done: Done[] = [];
  private readonly open = new Map<Stage, Open>();

  taken(stage: Stage, { transition, at_ms, reached_ms }: Taken): void {
    // The ways are those of the piece itself; what lives in it has bars.
    if (stage.copy === null) {
      const last = this.ways.at(-1);
      if (last) last.end_ms = Math.min(last.end_ms, at_ms);
      this.ways.push({ from: transition.from, to: transition.to, start_ms: at_ms, end_ms: reached_ms });
    }
    const open = this.openOf(stage);
    stage.motions.forEach((motion, index) => {
      const before = open.get(index);
      if (before?.motion === motion) return;
      if (before) before.bar.end_ms = Math.min(before.bar.end_ms, Math.max(at_ms, before.bar.start_ms));
      open.delete(index);
      if (!motion) return;
      const bar = { layer: motion.of.layer, start_ms: motion.start_ms, end_ms: motion.end_ms };
      this.bars.push(bar);
      open.set(index, { motion, bar });
    });
    for (const list of [this.bars, this.ways]) list.splice(0, list.length - MOST);
  }

  private openOf(stage: Stage): Open {
    const open = this.open.get(stage) ?? (new Map() as Open);
    this.open.set(stage, open);
    return open;
  }

  heard({ event, reason, transition }: Heard): void {
    // A second tap is told again when it is known what it was.
    if (reason === 'second-tap') return;
    this.done.push({ t_ms: event.t_ms, what: event.cue, heeded: transition !== null });
    this.done.splice(0, this.done.length - MOST);
  }

  /** The bars of each layer that moves, those that meet as one, in the order of the layers. */
  rows(tables: Tables): { id: string; name: string; bars: Bar[] }[] {
    const of = new Map<string, Bar[]>();
    for (const bar of this.bars) of.set(bar.layer, [...(of.get(bar.layer) ?? []), bar]);
    return tables.layers.flatMap(({ id, name }) => {
      const own = of.get(id);
      return own ? [{ id, name, bars: joined(own) }] : [];
    });
  }
}

function joined(bars: readonly Bar[]): Bar[] {
  const found: Bar[] = [];
  for (const bar of [...bars].sort((a, b) => a.start_ms - b.start_ms)) {
    const last = found.at(-1);
    if (last && bar.start_ms <= last.end_ms) last.end_ms = Math.max(last.end_ms, bar.end_ms);
    else found.push({ ...bar });
  }
  return found;
}

/** What these events will come to, without being shown, and how long it takes. */
export function foreseen(tables: Tables, events: readonly Event[]): { noted: Noted; until_ms: number } {
  const noted = new Noted();
  const cast = new Cast(tables);
  cast.onHeard = (heard) => noted.heard(heard);
  cast.onTaken = (taken, stage) => noted.taken(stage, taken);
  for (const event of events) cast.hear(event);
  const last = events.at(-1)?.t_ms ?? 0;
  cast.playUntil(last + tables.double_tap_ms);
  return { noted, until_ms: Math.max(cast.reached_ms, last) + AFTER_MS };
}
