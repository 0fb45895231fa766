/* Paints, shadows and pictures as CSS. */
import type { Gradient, Look, Shadow, Value } from '../../api/contract';
import { known } from '../../shared/known';
import { textOf } from '../../shared/text/values';
import { colour, gradientImage, type Around } from './gradients';

export const isFade = (value: unknown): value is { kind: 'fade'; from: Value; to: Value; share: number } =>
  typeof value === 'object' && value !== null && (value as { kind?: string }).kind === 'fade';

const percent = (share: number) => `${share * 100}%`;

/** A gradient, a colour, or two of them fading into each other, as a CSS image. */
export function image(paint: Value, around?: Around): string {
  if (isFade(paint))
    return `-webkit-cross-fade(${image(paint.from, around)}, ${image(paint.to, around)}, ${percent(paint.share)})`;
  if (typeof paint !== 'object') return `linear-gradient(${colour(paint)}, ${colour(paint)})`;
  return gradientImage(paint as Gradient, around);
}

export function background(style: CSSStyleDeclaration, paint: Value): void {
  const plain = typeof paint !== 'object';
  style.backgroundColor = plain ? colour(paint) : 'transparent';
  style.backgroundImage = plain ? '' : image(paint);
}

const shadowsOf = (look: Look) => (look.shadows ?? []) as Shadow[];

/** Shadows of a box, and its stroke where that lies inside: as wide as wanted, without taking room. Empty without any. */
export function boxShadow(look: Look, withStroke: boolean): string {
  const stroke =
    withStroke && look.stroke !== 'none' ? [`inset 0 0 0 ${textOf(look.stroke_width)}px ${textOf(look.stroke)}`] : [];
  const shadows = shadowsOf(look).map(
    (s) => `${s.inset ? 'inset ' : ''}${s.x}px ${s.y}px ${s.blur}px ${s.spread}px ${colour(s.colour)}`,
  );
  return [...stroke, ...shadows].join(', ');
}

/** Blur, shadows of what is no box, and then what is done to all colours; empty without any. */
export function filter(look: Look, withShadows: boolean): string {
  const blur = Number(look.blur) > 0 ? [`blur(${textOf(look.blur)}px)`] : [];
  // A drop shadow's blur is a standard deviation, a box shadow's is twice that.
  const shadows = withShadows
    ? shadowsOf(look)
        .filter((s) => !s.inset)
        .map((s) => `drop-shadow(${s.x}px ${s.y}px ${s.blur / 2}px ${colour(s.colour)})`)
    : [];
  return [...blur, ...shadows, ...colourFilters(look)].join(' ');
}

function colourFilters({ brightness, contrast, saturation, hue }: Look): string[] {
  if (brightness === 1 && contrast === 1 && saturation === 1 && hue === 0) return [];
  return [
    `brightness(${textOf(brightness)}) contrast(${textOf(contrast)})`,
    `saturate(${textOf(saturation)}) hue-rotate(${textOf(hue)}deg)`,
  ];
}

export function picture(style: CSSStyleDeclaration, look: Look): void {
  const url = (source: Value) => `url("${textOf(source)}")`;
  const { source } = look;
  style.backgroundImage = isFade(source)
    ? `-webkit-cross-fade(${url(source.from)}, ${url(source.to)}, ${percent(source.share)})`
    : url(known(source));
  style.backgroundSize = look.fit === 'fill' ? '100% 100%' : textOf(look.fit);
  style.backgroundPosition = `${percent(Number(look.focus_x))} ${percent(Number(look.focus_y))}`;
}
