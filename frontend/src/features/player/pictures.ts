/* Scenes as the runtime draws on them: what was written of a layer is shown by as few writes of styles as it needs. */
import type { Layer, Pose, Value } from '../../api/contract';
import { known } from '../../shared/known';
import type { Picture, Pictures } from '../../runtime/live';
import { Scene, type Shown, type Writer } from './scene';

class ScenePicture implements Picture {
  private readonly changed = new Map<string, Set<string>>();
  private readonly writers = new Map<string, Writer[]>();

  constructor(readonly scene: Scene) {}

  write(layer: string, property: string, value: unknown): void {
    const shown = this.scene.shown.get(layer);
    if (!shown) return;
    shown.look[property] = value as Value;
    const names = this.changed.get(layer) ?? new Set();
    this.changed.set(layer, names.add(property));
  }

  flush(): void {
    for (const [layer, names] of this.changed) {
      if (!names.size) continue;
      const shown = known(this.scene.shown.get(layer));
      for (const write of this.writersOf(layer, shown, names)) write(shown, shown.look);
      names.clear();
    }
  }

  /** The same properties move in most frames. */
  private writersOf(layer: string, shown: Shown, names: ReadonlySet<string>): Writer[] {
    const key = [layer, ...names].join();
    const found = this.writers.get(key) ?? this.scene.writersOf(shown, [...names]);
    this.writers.set(key, found);
    return found;
  }
}

export interface Drawn {
  layers: readonly Layer[];
  width: number;
  height: number;
  ground: string | null;
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
    private readonly drawn: Drawn,
    private zoom = 1,
  ) {
    this.scene = this.made();
    this.top = new ScenePicture(this.scene);
    holder.replaceChildren(this.scene.root);
  }

  setZoom(zoom: number): void {
    this.zoom = zoom;
    for (const scene of [this.scene, ...this.below.map((picture) => picture.scene)]) scene.zoom(zoom);
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
    const { layers, width, height, ground, pose } = this.drawn;
    const scene = new Scene(layers, width, height, ground);
    scene.show(pose);
    scene.zoom(this.zoom);
    return scene;
  }
}
