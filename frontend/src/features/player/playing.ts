/* Plays a tape on a scene: per frame one look-up for each track, and one write for each style that changed. */
import type { Pose } from '../../api/answers';
import type { Scene, Shown } from './scene';
import { readTrack, type Tape, type Track } from './tape';

interface Part {
  shown: Shown;
  tracks: Track[];
  writers: Set<string>;
}

export class Playing {
  private parts: Part[] = [];
  private readonly row = new Float64Array(4);

  constructor(private readonly scene: Scene) {}

  /** Takes a new tape without losing the moment that is shown. */
  load(rest: Pose, tape: Tape): void {
    this.scene.show(rest);
    const parts = new Map<string, Part>();
    for (const track of tape.values()) {
      const shown = this.scene.shown.get(track.layer);
      const writer = shown?.writers[track.property];
      if (!shown || !writer) continue;
      const part = parts.get(track.layer) ?? { shown, tracks: [], writers: new Set() };
      part.tracks.push(track);
      part.writers.add(writer);
      parts.set(track.layer, part);
    }
    this.parts = [...parts.values()];
  }

  /** Shows the moment `t` ms of the first round. */
  show(t: number): void {
    for (const { shown, tracks, writers } of this.parts) {
      for (const track of tracks) {
        readTrack(track, t, this.row);
        shown.look[track.property] = track.columns === 1 ? this.row[0]! : rgb(this.row);
      }
      this.scene.write(shown, writers);
    }
  }
}

const rgb = (row: Float64Array) => `rgb(${row[0]!.toFixed(1)} ${row[1]!.toFixed(1)} ${row[2]!.toFixed(1)} / ${row[3]!.toFixed(4)})`;
