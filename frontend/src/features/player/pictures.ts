/* Scenes as the runtime draws on them: what was written of a layer is shown by as few writes of styles as it needs. */
import type { Pose, Value } from '../../api/contract';
import { known } from '../../shared/known';
import type { Picture, Pictures } from '../../runtime/live';
import { Scene, type Picture as SceneOf, type Shown, type Writer } from './scene';

/** A layer that is written: what has changed of it since it was last shown, and how that is shown. */
interface Written {
  readonly shown: Shown;
  readonly changed: string[];
  /** The properties that changed when it was last shown: mostly the same change again. */
  before: readonly string[];
  writers: readonly Writer[];
}

class ScenePicture implements Picture {
  private readonly layers = new Map<string, Written>();
  /** What was written last: the next property is mostly of the same layer. */
  private last: { layer: string; written: Written } | null = null;

  constructor(readonly scene: Scene) {}

  write(layer: string, property: string, value: unknown): void {
    const written = this.last?.layer === layer ? this.last.written : (this.layers.get(layer) ?? this.begun(layer));
    if (!written) return;
    if (this.last?.written !== written) this.last = { layer, written };
    written.shown.look[property] = value as Value;
    written.changed.push(property);
  }

  private begun(layer: string): Written | null {
    const shown = this.scene.shown.get(layer);
    if (!shown) return null;
    const written = { shown, changed: [], before: [], writers: [] };
    this.layers.set(layer, written);
    return written;
  }

  flush(): void {
    for (const written of this.layers.values()) {
      const { shown, changed, before } = written;
      if (!changed.length) continue;
      if (changed.length !== before.length || changed.some((name, index) => name !== before[index])) {
        written.before = [...changed];
        written.writers = this.scene.writersOf(shown, [...new Set(changed)]);
      }
      for (const write of written.writers) write(shown, shown.look);
      changed.length = 0;
    }
  }
}

export interface Drawn extends SceneOf {
  /** The start. */
  pose: Pose;
}

/** The scene of a piece, and those below it for the looks that cross-fades leave. */
export class ScenePictures implements Pictures {
  readonly scene: Scene;
  readonly top: ScenePicture;
  private readonly below: ScenePicture[] = [];

  constructor(
    holder: HTMLElement,
    private drawn: Drawn,
    private zoom = 1,
  ) {
    this.scene = this.made();
    this.top = new ScenePicture(this.scene);
    holder.replaceChildren(this.scene.root);
  }

  /** What does not move looks otherwise now; what moves is written after it. */
  repaint(pose: Pose): void {
    for (const [layer, look] of Object.entries(pose)) {
      const before = this.drawn.pose[layer];
      if (look === before) continue;
      const changed = Object.entries(look).filter(([name, value]) => value !== before?.[name]);
      for (const picture of [this.top, ...this.below]) {
        for (const [name, value] of changed) picture.write(layer, name, value);
      }
    }
    for (const picture of [this.top, ...this.below]) picture.flush();
    this.drawn = { ...this.drawn, pose };
  }

  setZoom(zoom: number): void {
    this.zoom = zoom;
    for (const scene of [this.scene, ...this.below.map((picture) => picture.scene)]) scene.zoom(zoom);
  }

  scrollTo(y: number): void {
    for (const { root } of [this.scene, ...this.below.map((picture) => picture.scene)]) {
      if (Math.abs(root.scrollTop - y) >= 1) root.scrollTop = y;
    }
  }

  under(index: number): Picture {
    while (this.below.length <= index) {
      const scene = this.made();
      scene.root.classList.add('under');
      scene.root.inert = true;
      this.scene.root.before(scene.root);
      this.below.push(new ScenePicture(scene));
    }
    return known(this.below[index]);
  }

  /** The looks are added up, so that what is the same in all of them does not shine through. */
  show(shares: readonly number[]): void {
    this.below.forEach(({ scene: { root } }, index) => {
      root.hidden = index >= shares.length;
      root.style.opacity = String(shares[index] ?? 0);
      root.style.mixBlendMode = index ? 'plus-lighter' : '';
    });
    const { style } = this.scene.root;
    style.opacity = shares.length ? String(1 - shares.reduce((sum, share) => sum + share, 0)) : '';
    style.mixBlendMode = shares.length ? 'plus-lighter' : '';
  }

  private made(): Scene {
    const scene = new Scene(this.drawn);
    scene.show(this.drawn.pose);
    scene.zoom(this.zoom);
    return scene;
  }
}
