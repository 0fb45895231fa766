/* Bars on their way: pulled by pointer or by keys, each pull an edit. */
import { stepped } from '../../shared/ui/hands';
import { attempt, playedRun, sayFault, useBench } from '../workbench';
import { moveBars } from './barEdits';
import { barsOf } from './model';
import { placesOf, type Pull } from './places';

/** Pulls one after another, each from where the one before it has left the bars; steps of a held key are added up. */
export class Pulls {
  private waiting: { keys: readonly string[]; pull: Pull }[] = [];
  private running: Promise<void> | null = null;

  add(keys: readonly string[], pull: Pull): Promise<void> {
    const last = this.waiting.at(-1);
    const isMore = last?.pull.part === pull.part && last.pull.alone === pull.alone && last.keys.join() === keys.join();
    if (isMore) last.pull.by_ms += pull.by_ms;
    else this.waiting.push({ keys, pull: { ...pull } });
    this.running ??= this.run().finally(() => (this.running = null));
    return this.running;
  }

  private async run(): Promise<void> {
    for (let next = this.waiting.shift(); next; next = this.waiting.shift()) {
      const { keys, pull } = next;
      try {
        const bench = useBench.getState();
        const bars = barsOf(playedRun(), bench.readings).filter((bar) => keys.includes(bar.key));
        const edit = await moveBars(bench, bars, placesOf(bars, pull), pull.alone);
        await stepped(() => attempt(edit));
      } catch (error) {
        sayFault(error);
      }
    }
  }
}

/** The keys after a press on a bar: it alone, or with Shift besides others, or no longer. The pressed one is the last. */
export function keysPressed(chosen: readonly string[], key: string, also: boolean): readonly string[] {
  const others = chosen.filter((other) => other !== key);
  if (!chosen.includes(key)) return also ? [...chosen, key] : [key];
  return also ? others : [...others, key];
}
