import { describe, expect, it } from 'vitest';
import type { Form, Look } from '../../api/contract';
import { boxShadow, filter, image } from './paint';
import { valueOf } from './values';

const row = (...numbers: number[]) => Float64Array.from(numbers);
const PATH: Form = { kind: 'path', commands: 'MLZ', from: [0, 0, 10, 0], to: [0, 4, 20, 8] };
const FADE: Form = { kind: 'fade', values: ['Sail', 'Sailed'] };
const TWO_STOPS: Form = { kind: 'gradient', gradient: 'linear', numbers: ['angle'], stops: 2 };
const RED = [255, 0, 0, 1];
const HALF_BLUE = [0, 0, 255, 0.5];

describe('rows of a tape', () => {
  it.each<[string, Form | null, number[], unknown]>([
    ['a number', null, [4.5], 4.5],
    ['a colour', null, HALF_BLUE, 'rgb(0.0 0.0 255.0 / 0.5000)'],
    ['a choice before', { kind: 'switch', values: ['butt', 'round'] }, [0], 'butt'],
    ['a choice after', { kind: 'switch', values: ['butt', 'round'] }, [1], 'round'],
    ['a text that has not begun to fade', FADE, [0], 'Sail'],
    ['a text that fades', FADE, [0.25], { kind: 'fade', from: 'Sail', to: 'Sailed', share: 0.25 }],
    ['a text that has faded', FADE, [1], 'Sailed'],
    ['dashes', { kind: 'lengths' }, [3, 1.5], [3, 1.5]],
    ['an outline halfway', PATH, [0.5], 'M0.000 2.000 L15.000 4.000 Z'],
    [
      'a shadow',
      { kind: 'shadows', inset: [true] },
      [1, 2, 3, 4, ...RED],
      [{ x: 1, y: 2, blur: 3, spread: 4, inset: true, colour: 'rgb(255.0 0.0 0.0 / 1.0000)' }],
    ],
    [
      'a gradient',
      TWO_STOPS,
      [90, 0, 0.75, ...RED, ...HALF_BLUE],
      {
        kind: 'linear',
        angle: 90,
        stops: [
          { at: 0, colour: 'rgb(255.0 0.0 0.0 / 1.0000)' },
          { at: 0.75, colour: 'rgb(0.0 0.0 255.0 / 0.5000)' },
        ],
      },
    ],
  ])('%s', (_, form, numbers, value) => expect(valueOf(form, row(...numbers), numbers.length)).toEqual(value));
});

const STOPS = [
  { at: 0, colour: 'red' },
  { at: 0.5, colour: 'none' },
];

describe('as CSS', () => {
  it.each([
    [
      'a linear gradient',
      { kind: 'linear', angle: 30, stops: STOPS },
      'linear-gradient(30deg, red 0%, transparent 50%)',
    ],
    [
      'a conic one',
      { kind: 'conic', angle: 10, centre_x: 0.25, stops: STOPS },
      'conic-gradient(from 10deg at 25% 50%, red 0%, transparent 50%)',
    ],
    [
      'a radial one',
      { kind: 'radial', radius: 0.4, stops: STOPS },
      'radial-gradient(40% 40% at 50% 50%, red 0%, transparent 50%)',
    ],
    [
      'an ellipse',
      { kind: 'radial', radius: 0.5, stretch: 1.5, stops: STOPS },
      'radial-gradient(75% 50% at 50% 50%, red 0%, transparent 50%)',
    ],
    [
      'two that fade',
      { kind: 'fade', from: 'red', to: 'blue', share: 0.25 },
      '-webkit-cross-fade(linear-gradient(red, red), linear-gradient(blue, blue), 25%)',
    ],
  ])('%s', (_, paint, css) => expect(image(paint as never)).toBe(css));

  const PLAIN_COLOURS = { brightness: 1, contrast: 1, saturation: 1, hue: 0 };
  const shadow = { x: 0, y: 2, blur: 6, spread: 1, colour: '#15293b40', inset: false };
  it.each<[string, Look, boolean, string]>([
    ['no shadow', { shadows: [], stroke: 'none' }, true, ''],
    ['a shadow of a box', { shadows: [shadow], stroke: 'none' }, true, '0px 2px 6px 1px #15293b40'],
    ['a stroke inside it', { shadows: [], stroke: 'red', stroke_width: 2 }, true, 'inset 0 0 0 2px red'],
  ])('%s', (_, look, stroked, css) => expect(boxShadow(look, stroked)).toBe(css));

  it('halves the blur of a shadow that is a filter', () => {
    expect(filter({ ...PLAIN_COLOURS, blur: 3, shadows: [shadow, { ...shadow, inset: true }] }, true)).toBe(
      'blur(3px) drop-shadow(0px 2px 3px #15293b40)',
    );
    expect(filter({ ...PLAIN_COLOURS, blur: 0, shadows: [shadow] }, false)).toBe('');
    expect(filter({ ...PLAIN_COLOURS, hue: 40, shadows: [] }, false)).toBe(
      'brightness(1) contrast(1) saturate(1) hue-rotate(40deg)',
    );
  });
});
