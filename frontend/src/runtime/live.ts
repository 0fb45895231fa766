/* Plays tables on a picture: what moves is written, each frame, as it is shown then. */
import { Cast } from './cast';
import type { Event, Heard, Place, Tables, Undercurrent } from './data';
import { shownAt } from './places';
import type { Fading, Stage, Taken } from './stage';
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
  /** Where the content is longer than the screen: how far it is scrolled, px. */
  scrollTo?(y: number): void;
}

/** More looks than this are not faded at once: the oldest of them is hardly seen. */
const MOST_FADING = 4;

/** What a piece moves on a picture, and what of it has to be written anew. */
class Part {
  /** What was on its way when it was last shown: it is written once more when it has arrived. */
  private readonly moving: boolean[];
  private stale = true;
  /** The undercurrents that run now. */
  private rounds: readonly Undercurrent[] = [];

  constructor(
    readonly stage: Stage,
    private readonly picture: Picture,
  ) {
    this.moving = stage.tables.motions.map(() => true);
  }

  /** It has gone somewhere else than where it was going. */
  turn(): void {
    this.stale = true;
  }

  show(calmly: boolean, scrolled: number): void {
    const { stage, picture } = this;
    this.endRounds();
    for (let index = 0; index < this.moving.length; index++) {
      const moves = stage.moves(index, stage.now);
      if (!moves && !this.moving[index] && !this.stale) continue;
      this.moving[index] = moves;
      const { layer, property, form, rest, calm } = at(stage.tables.motions, index);
      const shown = moves && (calm || !calmly) ? shownAt(form, stage.place(index, stage.now)) : rest[stage.state];
      picture.write(layer, property, shown);
    }
    this.stale = false;
    for (const round of this.rounds) {
      const t = stage.now - stage.origin_ms;
      goRound(round, wayThrough(round, stage.tables, scrolled) ?? t % round.period_ms, picture, calmly);
    }
  }

  /** Writes it as it stands at this moment. */
  still(picture: Picture, places?: readonly Place[]): void {
    const { tables, now } = this.stage;
    tables.motions.forEach(({ layer, property, form }, index) =>
      picture.write(layer, property, shownAt(form, places ? at(places, index) : this.stage.place(index, now))),
    );
  }

  /** What goes round no longer stands as it stood without it. */
  private endRounds(): void {
    const states = this.stage.between(this.stage.now);
    const rounds = this.stage.tables.undercurrents.filter((round) => runs(round, states));
    for (const ended of this.rounds.filter((round) => !rounds.includes(round))) {
      for (const { layer, property, rest } of ended.tracks) this.picture.write(layer, property, rest);
      this.stale = true;
    }
    this.rounds = rounds;
  }
}

export class Live {
  readonly cast: Cast;
  private readonly parts = new Map<Stage, Part>();
  private drawn: Fading[] = [];
  private faded = false;
  /** Motion is unwanted: places stand where they come to rest, opacity and colours go on. */
  calm = false;

  constructor(
    tables: Tables,
    private readonly pictures: Pictures,
    on: { taken?: (taken: Taken, stage: Stage) => void; heard?: (heard: Heard) => void } = {},
  ) {
    this.cast = new Cast(tables);
    this.cast.onHeard = (heard) => on.heard?.(heard);
    this.cast.onTaken = (taken, stage) => {
      this.partOf(stage).turn();
      on.taken?.(taken, stage);
    };
  }

  /** That of the piece itself, without those that live in it. */
  get stage(): Stage {
    return this.cast.stage;
  }

  hear(event: Event): void {
    this.cast.hear(event);
  }

  go(state: string, t: number): void {
    this.cast.go(state, t);
  }

  /** Goes on with other values. */
  use(tables: Tables): void {
    this.cast.use(tables);
    for (const part of this.parts.values()) part.turn();
  }

  /** Shows a moment, which never lies before one that was shown or heard. */
  show(t: number): void {
    this.cast.playUntil(Math.max(t, this.cast.now));
    for (const { stage } of this.cast.all) this.partOf(stage).show(this.calm, this.cast.scrolled);
    this.pictures.scrollTo?.(this.cast.scrolled);
    this.pictures.top.flush();
    this.fade();
  }

  private partOf(stage: Stage): Part {
    const part = this.parts.get(stage) ?? new Part(stage, this.pictures.top);
    this.parts.set(stage, part);
    return part;
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
      for (const { stage: each } of this.cast.all) {
        this.partOf(each).still(under, each === stage ? fade.places : undefined);
      }
      under.flush();
    });
    this.drawn = [...stage.fades];
    this.pictures.show(stage.shares(stage.now));
  }
}

const runs = ({ states }: Undercurrent, [from, to]: readonly [string, string]) =>
  !states || (states.includes(from) && states.includes(to));

/** How far it has come by the way scrolled through its section; null where it goes by time. */
function wayThrough({ section, period_ms }: Undercurrent, { sections }: Tables, scrolled: number): number | null {
  const found = section === null ? null : sections.find(({ id }) => id === section);
  return found ? Math.min(Math.max((scrolled - found.top) / found.height, 0), 1) * period_ms : null;
}

function goRound({ tracks }: Undercurrent, t: number, picture: Picture, calmly: boolean): void {
  for (const { layer, property, times, rows, form, calm } of tracks) {
    if (calmly && !calm) continue;
    const [knot, next, share] = between(times, t);
    const [from, to] = [at(rows, knot), at(rows, next)];
    const row = from.map((x, i) => x + share * (at(to, i) - x));
    picture.write(layer, property, shownAt(form, row));
  }
}
