/* Layers as large as wanted by their own numbers, rather than by a scale around them. Pure. */
import { PROPERTIES } from '../../../api/generated/catalogue';
import type { Layer, Shadow } from '../../../api/contract';
import { round } from '../../../shared/text/sums';

/** Lengths, with what stands for them where nothing is said. The size in which a path is written is none on the stage. */
const LENGTHS = PROPERTIES.filter(({ unit, name }) => unit === 'px' && !name.startsWith('view_'));

/** All lengths of a layer and of what it holds, so many times as long. */
export function scaled(layer: Layer, by: number): Layer {
  const own = layer as unknown as Record<string, unknown>;
  const longer = (value: number) => round(Math.round(value * by * 1000) / 1000);
  const lengths = LENGTHS.filter(({ kinds }) => kinds.includes(layer.kind)).flatMap(({ name, default: unsaid }) => {
    const value = own[name] ?? unsaid;
    return typeof value === 'number' && value !== 0 ? [[name, longer(value)]] : [];
  });
  const {
    stroke_dash: dash,
    shadows,
    layers,
  } = own as {
    stroke_dash?: number[];
    shadows?: Shadow[];
    layers?: Layer[];
  };
  return {
    ...own,
    ...Object.fromEntries(lengths),
    ...(dash && { stroke_dash: dash.map(longer) }),
    ...(shadows && {
      shadows: shadows.map((shadow) => ({
        ...shadow,
        ...Object.fromEntries((['x', 'y', 'blur', 'spread'] as const).map((name) => [name, longer(shadow[name] ?? 0)])),
      })),
    }),
    ...(layers && { layers: layers.map((inner) => scaled(inner, by)) }),
  } as Layer;
}
