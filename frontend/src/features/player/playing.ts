/* Plays a run on a scene: per frame one look-up for each moving property, and one write for each style of it. */
import type { Pose, Run, Segment } from '../../api/answers';
import type { Scene, Shown } from './scene';
import { readTrack, type Tape, type Track } from './tape';

interface Part {
  shown: Shown;
  tracks: Track[];
  writers: Set<string>;
}

/** The segment that is under way at `t`; of several at one moment the last. None after the end. */
export function segmentAt(segments: readonly Segment[], t: number): number {
  let low = 0;
  let high = segments.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (segments[middle]!.start_ms <= t) low = middle + 1;
    else high = middle;
  }
  const found = low - 1;
  return found >= 0 && t >= segments[found]!.end_ms ? segments.length : found;
}

export class Playing {
  private readonly row = new Float64Array(4);
  private poses: Record<string, Pose> = {};
  private run: Run | null = null;
  private tape: Tape = new Map();
  private current = -1;
  private parts: Part[] = [];

  constructor(private readonly scene: Scene) {}

  /** Takes a new run; the moment is shown by the next `show`. */
  load(poses: Record<string, Pose>, run: Run, tape: Tape): void {
    this.poses = poses;
    this.run = run;
    this.tape = tape;
    this.current = -1;
  }

  /** Shows the moment `t` ms of the first round. */
  show(t: number): void {
    const { segments, final_state, transitions } = this.run!;
    const index = segmentAt(segments, t);
    const segment = segments[index];
    if (index !== this.current) {
      this.current = index;
      // What this segment does not move stands as the state before left it.
      this.scene.show(this.poses[segment?.from ?? final_state]!);
      this.parts = segment?.kind === 'travel' ? this.partsOf(transitions[index]!) : [];
    }
    const local = t - (segment?.start_ms ?? 0);
    for (const { shown, tracks, writers } of this.parts) {
      for (const track of tracks) {
        readTrack(track, local, this.row);
        shown.look[track.property] = track.columns === 1 ? this.row[0]! : rgb(this.row);
      }
      this.scene.write(shown, writers);
    }
  }

  private partsOf(transition: string): Part[] {
    const parts = new Map<string, Part>();
    for (const track of this.tape.get(transition) ?? []) {
      const shown = this.scene.shown.get(track.layer);
      const writer = shown?.writers[track.property];
      if (!shown || !writer) continue;
      const part = parts.get(track.layer) ?? { shown, tracks: [], writers: new Set() };
      part.tracks.push(track);
      part.writers.add(writer);
      parts.set(track.layer, part);
    }
    return [...parts.values()];
  }
}

const rgb = (row: Float64Array) => `rgb(${row[0]!.toFixed(1)} ${row[1]!.toFixed(1)} ${row[2]!.toFixed(1)} / ${row[3]!.toFixed(4)})`;
