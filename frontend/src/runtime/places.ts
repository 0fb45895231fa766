/* What a place shows, as a value that a scene can write. Weighted sums, and the way from OKLab to the screen. */
import type { Place, PlaceForm, Space } from './data';
import { at } from './tables';

type Rgb = (a: number, b: number, c: number) => [number, number, number];

/** sRGB of light: IEC 61966-2-1, from and to 0–1. */
const curved = (light: number) => {
  const x = Math.min(Math.max(light, 0), 1);
  return x <= 0.0031308 ? 12.92 * x : 1.055 * x ** (1 / 2.4) - 0.055;
};

/** The matrices of OKLab: CSS Color Level 4. */
const oklab: Rgb = (lightness, a, b) => {
  const light = Math.min(Math.max(lightness, 0), 1);
  const l = (light + 0.3963377773761749 * a + 0.2158037573099136 * b) ** 3;
  const m = (light - 0.1055613458156586 * a - 0.0638541728258133 * b) ** 3;
  const s = (light - 0.0894841775298119 * a - 1.2914855480194092 * b) ** 3;
  return [
    255 * curved(4.0767416360759583 * l - 3.3077115392580629 * m + 0.2309699031821043 * s),
    255 * curved(-1.268437973285031 * l + 2.6097573492876882 * m - 0.341319376002657 * s),
    255 * curved(-0.0041960761386756 * l - 0.7034186179359362 * m + 1.7076146940746117 * s),
  ];
};
const within = (c: number) => Math.min(Math.max(c, 0), 255);
const SPACES: Record<Space, Rgb> = { oklab, srgb: (r, g, b) => [within(r), within(g), within(b)] };

/** A colour at `from` in a place: three coordinates times alpha, and alpha; divided by a share first. */
function colour(space: Space, place: Place, from: number, share = 1): string {
  const alpha = Math.min(Math.max(at(place, from + 3) / share, 0), 1);
  const whole = share * (alpha > 0 ? alpha : 1);
  const [r, g, b] = SPACES[space](at(place, from) / whole, at(place, from + 1) / whole, at(place, from + 2) / whole);
  return `rgb(${r.toFixed(1)} ${g.toFixed(1)} ${b.toFixed(1)} / ${alpha.toFixed(4)})`;
}

/** Values added up by their shares, as fades inside of fades. */
function faded(shares: readonly (readonly [unknown, number])[]): unknown {
  const seen = shares.filter(([, share]) => share > 0);
  const [first, ...others] = seen.length ? seen : shares;
  let [value, whole] = first as readonly [unknown, number];
  for (const [to, share] of others.slice(0, seen.length ? undefined : 0)) {
    whole += share;
    value = { kind: 'fade', from: value, to, share: share / whole };
  }
  return value;
}

function paint(form: Extract<PlaceForm, { kind: 'paint' }>, place: Place): unknown {
  let start = 0;
  return faded(
    form.kinds.map(({ gradient, numbers, stops }): [unknown, number] => {
      const [share, weight, lying] = [at(place, start), at(place, start + 1), start + 2];
      const [places, colours] = [lying + numbers.length, lying + numbers.length + stops];
      start = colours + 4 * stops;
      if (share <= 0) return ['none', 0];
      if (weight === 0) return [colour(form.space, place, colours, share), share];
      let last = 0;
      const stopped = Array.from({ length: stops }, (_, i) => {
        last = Math.max(last, Math.min(Math.max(at(place, places + i) / weight, 0), 1));
        return { at: last, colour: colour(form.space, place, colours + 4 * i, share) };
      });
      const named = numbers.map((name, i) => {
        const value = at(place, lying + i) / weight;
        return [name, name === 'radius' || name === 'stretch' ? Math.max(value, 0) : value];
      });
      return [{ kind: gradient, ...Object.fromEntries(named), stops: stopped }, share];
    }),
  );
}

const SHADOW = 9;

function shadows(form: Extract<PlaceForm, { kind: 'shadow-list' }>, place: Place): unknown {
  return form.inset.flatMap((inset, i) => {
    const start = SHADOW * i;
    const weight = at(place, start + 4);
    if (weight === 0) return [];
    const [x, y, blur, spread] = [0, 1, 2, 3].map((n) => at(place, start + n) / weight) as [
      number,
      number,
      number,
      number,
    ];
    return [{ x, y, blur: Math.max(blur, 0), spread, inset, colour: colour(form.space, place, start + 5) }];
  });
}

const OPERANDS: Record<string, number> = { M: 2, L: 2, Q: 4, C: 6, Z: 0 };

function pathText(commands: string, place: Place): string {
  let text = '';
  let next = 0;
  for (const letter of commands) {
    text += letter;
    for (const end = next + (OPERANDS[letter] ?? 0); next < end; next++) text += `${at(place, next).toFixed(3)} `;
  }
  return text;
}

function dashes(place: Place): number[] {
  const weight = at(place, place.length - 1);
  if (weight === 0) return [];
  return place.slice(0, -1).map((length, i) => Math.max(i % 2 ? length : length / weight, 0));
}

/** The value of a property at a place. */
export function shownAt(form: PlaceForm | null, place: Place): unknown {
  if (!form) return place.length === 1 ? at(place, 0) : `rgb(${place.slice(0, 3).join(' ')} / ${at(place, 3)})`;
  switch (form.kind) {
    case 'inverse':
      return at(place, 0) > 0 ? 1 / at(place, 0) : 0;
    case 'switch':
      return form.values[Math.round(at(place, 0))];
    case 'fades':
      return faded(form.values.map((value, i) => [value, Math.min(Math.max(at(place, i), 0), 1)] as const));
    case 'colour':
      return colour(form.space, place, 0);
    case 'paint':
      return paint(form, place);
    case 'shadow-list':
      return shadows(form, place);
    case 'dashes':
      return dashes(place);
    case 'axes':
      return form.axes.map((axis, i) => ({ axis, value: at(place, i) }));
    case 'outline':
      return pathText(form.commands, place);
  }
}
