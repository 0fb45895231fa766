/* Plays a run on a scene: per frame one look-up for each moving property, and one write for each style of it. */
import type { Pose, Run, RunningVoice, Segment, Undercurrent } from '../../api/contract';
import type { Scene, Shown, Writer } from './scene';
import { readTrack, unpack, type Tape, type Track } from './tape';
import { valueOf } from './values';
import { known } from '../../shared/known';

interface Part {
  shown: Shown;
  tracks: Track[];
  writers: Writer[];
}

interface Round {
  undercurrent: Undercurrent;
  parts: Part[];
}

/** No segment has been shown yet; −1 is what stands before the first of them. */
const NOT_SHOWN = -2;

/** The segment that is under way at `t`; of several at one moment the last. None after the end. */
export function segmentAt(segments: readonly Segment[], t: number): number {
  let low = 0;
  let high = segments.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (known(segments[middle]).start_ms <= t) low = middle + 1;
    else high = middle;
  }
  const found = low - 1;
  return found >= 0 && t >= known(segments[found]).end_ms ? segments.length : found;
}

interface Voice {
  playing: Playing;
  /** By the time of the run around it. */
  show: (played: number) => void;
}

/** The moment of the first round that looks like `t`: loops go round, ends stay. */
function within({ lead_in_ms, loop_ms, total_ms, plays }: Run, t: number): number {
  if (loop_ms === null) return Math.min(t, total_ms);
  if (plays && t >= lead_in_ms + plays * loop_ms) return total_ms;
  return t < total_ms ? t : lead_in_ms + ((t - lead_in_ms) % loop_ms);
}

export class Playing {
  private row = new Float64Array(64);
  private poses: Record<string, Pose> = {};
  private run: Run | null = null;
  private tape: Tape = new Map();
  private current = NOT_SHOWN;
  private parts: Part[] = [];
  private rounds: Round[] = [];
  private voices: Voice[] = [];
  private under: Scene | null = null;

  /** `makeUnder` gives a second scene, below the first, for the look that a cross-fade leaves; a free placement, which
   * only moves what is in it, has none. */
  constructor(
    private readonly scene: Scene,
    private readonly makeUnder: (() => Scene) | null,
  ) {}

  /** Takes a new run; the moment is shown by the next `show`. */
  load(poses: Record<string, Pose>, run: Run, tape: Tape): void {
    this.poses = poses;
    this.run = run;
    this.tape = tape;
    this.current = NOT_SHOWN;
    this.rounds = run.undercurrents.map((undercurrent) => ({
      undercurrent,
      parts: this.partsOf(unpack(undercurrent.tape)),
    }));
    this.voices = run.voices.map((voice) => this.voiceOn(this.scene, voice));
  }

  /** Shows the moment `t` ms of the first round; undercurrents and free placements as they are after `played` ms. */
  show(t: number, played = t): void {
    const { segments, final_state, legs } = known(this.run);
    const index = segmentAt(segments, t);
    const segment = segments[index];
    const leg = segment ? this.tape.get(known(legs[index])) : undefined;
    if (index !== this.current) {
      this.current = index;
      // What this segment does not move stands as the state before left it.
      this.pose(known(this.poses[segment?.from ?? final_state]));
      this.parts = leg ? this.partsOf(leg.tracks) : [];
      if (leg?.fade) this.beginFade(known(this.poses[known(segment).from]), played);
      else this.endFade();
    }
    const local = t - (segment?.start_ms ?? 0);
    this.write(this.parts, local);
    if (leg?.fade) this.fade(leg.fade, local);
    const [from, to] = [segment?.from ?? final_state, segment?.to ?? final_state];
    for (const { undercurrent, parts } of this.rounds) {
      const { states, period_ms, section } = undercurrent;
      // Nobody scrolls here: what follows scrolling stands at its beginning.
      const t = section === null ? played % period_ms : 0;
      if (!states || (states.includes(from) && states.includes(to))) this.write(parts, t);
    }
    for (const voice of this.voices) voice.show(played);
  }

  /** Of a free placement, whose scene shows the piece around it too, what it moves; of a piece all of it. */
  private pose(pose: Pose): void {
    if (this.makeUnder) {
      this.scene.show(pose);
      // They have been put back to where they begin.
      for (const voice of this.voices) voice.playing.current = NOT_SHOWN;
      return;
    }
    for (const [layer, look] of Object.entries(pose)) {
      const shown = this.scene.shown.get(layer);
      if (!shown) continue;
      Object.assign(shown.look, look);
      for (const write of this.scene.writersOf(shown, Object.keys(look))) write(shown, shown.look);
    }
  }

  private voiceOn(scene: Scene, { begins_ms, run, tapes, poses }: RunningVoice): Voice {
    const playing = new Playing(scene, null);
    const tape = new Map(Object.entries(tapes).map(([leg, packed]) => [leg, { tracks: unpack(packed), fade: null }]));
    playing.load(poses, run, tape);
    const show = (played: number) => {
      if (played >= begins_ms) playing.show(within(run, played - begins_ms), played - begins_ms);
    };
    return { playing, show };
  }

  private write(parts: readonly Part[], t: number): void {
    for (const { shown, tracks, writers } of parts) {
      for (const track of tracks) {
        if (track.columns > this.row.length) this.row = new Float64Array(track.columns);
        readTrack(track, t, this.row);
        shown.look[track.property] = valueOf(track.form, this.row, track.columns);
      }
      for (const write of writers) write(shown, shown.look);
    }
  }

  private beginFade(before: Pose, played: number): void {
    if (!this.makeUnder) return;
    this.under ??= this.makeUnder();
    this.under.root.hidden = false;
    this.under.show(before);
    for (const voice of known(this.run).voices) this.voiceOn(this.under, voice).show(played);
  }

  private fade(track: Track, t: number): void {
    readTrack(track, t, this.row);
    const share = known(this.row[0]);
    known(this.under).root.style.opacity = String(1 - share);
    // The two are added up, so that what is the same in both does not shine through.
    Object.assign(this.scene.root.style, { opacity: String(share), mixBlendMode: 'plus-lighter' });
  }

  private endFade(): void {
    if (!this.under || this.under.root.hidden) return;
    this.under.root.hidden = true;
    Object.assign(this.scene.root.style, { opacity: '', mixBlendMode: '' });
  }

  private partsOf(tracks: readonly Track[]): Part[] {
    const byLayer = Map.groupBy(tracks, (track) => track.layer);
    return [...byLayer].flatMap(([layer, own]) => {
      const shown = this.scene.shown.get(layer);
      return shown
        ? [
            {
              shown,
              tracks: own,
              writers: this.scene.writersOf(
                shown,
                own.map((track) => track.property),
              ),
            },
          ]
        : [];
    });
  }
}
