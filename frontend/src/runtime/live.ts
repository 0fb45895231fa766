/* Plays tables on a picture: what moves is written, each frame, as it is shown then. */
import type { Event, Heard, Tables, Undercurrent } from './data';
import { shownAt } from './places';
import { Stage, type Fading, type Taken } from './stage';
import { at, between } from './tables';

/** Where a piece is drawn. Values are those of the piece's properties; `flush` comes after all that were written. */
export interface Picture {
  write(layer: string, property: string, value: unknown): void;
  flush(): void;
}

/** The picture, and those of the looks that cross-fades leave, each with the share by which it is seen. */
export interface Pictures {
  readonly top: Picture;
  /** The picture of the n-th look that is left, made when it is first needed. */
  under(index: number): Picture;
  /** By how much each look that was left is seen, the oldest first; none where the top is all there is. */
  show(shares: readonly number[]): void;
}

/** More looks than this are not faded at once: the oldest of them is hardly seen. */
const MOST_FADING = 4;

export class Live {
  readonly stage: Stage;
  private drawn: Fading[] = [];
  private faded = false;
  /** What was on its way when it was last shown: it is written once more when it has arrived. */
  private readonly moving: boolean[];
  private stale = true;
  /** The undercurrents that run now. */
  private rounds: readonly Undercurrent[] = [];
  /** Motion is unwanted: places stand where they come to rest, opacity and colours go on. */
  calm = false;

  constructor(
    readonly tables: Tables,
    private readonly pictures: Pictures,
    on: { taken?: (taken: Taken) => void; heard?: (heard: Heard) => void } = {},
  ) {
    this.stage = new Stage(tables);
    this.moving = tables.motions.map(() => true);
    this.stage.onHeard = (heard) => on.heard?.(heard);
    this.stage.onTaken = (taken) => {
      this.stale = true;
      on.taken?.(taken);
    };
  }

  hear(event: Event): void {
    this.stage.hear(event);
  }

  go(state: string, t: number): void {
    this.stage.go(state, t);
  }

  /** Shows a moment, which never lies before one that was shown or heard. */
  show(t: number): void {
    const { stage, tables } = this;
    stage.playUntil(Math.max(t, stage.now));
    const { top } = this.pictures;
    this.endRounds();
    for (let index = 0; index < this.moving.length; index++) {
      const moves = stage.moves(index, stage.now);
      if (!moves && !this.moving[index] && !this.stale) continue;
      this.moving[index] = moves;
      const { layer, property, form, rest, calm } = at(tables.motions, index);
      const shown = moves && (calm || !this.calm) ? shownAt(form, stage.place(index, stage.now)) : rest[stage.state];
      top.write(layer, property, shown);
    }
    this.stale = false;
    for (const round of this.rounds) goRound(round, stage.now, top, this.calm);
    top.flush();
    this.fade();
  }

  /** What goes round no longer stands as it stood without it. */
  private endRounds(): void {
    const states = this.stage.between(this.stage.now);
    const rounds = this.tables.undercurrents.filter((round) => runs(round, states));
    for (const ended of this.rounds.filter((round) => !rounds.includes(round))) {
      for (const { layer, property, rest } of ended.tracks) this.pictures.top.write(layer, property, rest);
      this.stale = true;
    }
    this.rounds = rounds;
  }

  private fade(): void {
    const { stage } = this;
    stage.forgetFaded(stage.now);
    if (stage.fades.length > MOST_FADING) stage.fades = stage.fades.slice(-MOST_FADING);
    if (!stage.fades.length) {
      if (this.faded) this.pictures.show([]);
      this.faded = false;
      return;
    }
    this.faded = true;
    stage.fades.forEach((fade, index) => {
      if (this.drawn[index] === fade) return;
      const under = this.pictures.under(index);
      fade.places.forEach((place, motion) => {
        const { layer, property, form } = at(this.tables.motions, motion);
        under.write(layer, property, shownAt(form, place));
      });
      under.flush();
    });
    this.drawn = [...stage.fades];
    this.pictures.show(stage.shares(stage.now));
  }
}

const runs = ({ states }: Undercurrent, [from, to]: readonly [string, string]) =>
  !states || (states.includes(from) && states.includes(to));

function goRound({ period_ms, tracks }: Undercurrent, t: number, picture: Picture, calmly: boolean): void {
  for (const { layer, property, times, rows, form, calm } of tracks) {
    if (calmly && !calm) continue;
    const [knot, next, share] = between(times, t % period_ms);
    const [from, to] = [at(rows, knot), at(rows, next)];
    const row = from.map((x, i) => x + share * (at(to, i) - x));
    picture.write(layer, property, shownAt(form, row));
  }
}
