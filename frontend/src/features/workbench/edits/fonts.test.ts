import { describe, expect, it } from 'vitest';
import type { FontFacts, FontTaken, Piece, Text } from '../../../api/contract';
import { PROPERTIES } from '../../../api/generated/catalogue';
import { known } from '../../../shared/known';
import { parseValue, valueText } from '../../../shared/text/values';
import { bringFont, dropFont, fontsOf, patched, setAxis, shareFont, textsIn } from '.';

const WIDE = { tag: 'wdth', name: 'Width', low: 75, default: 100, high: 125 };
const LEAN = { tag: 'slnt', name: 'Slant', low: -12, default: 0, high: 0 };
const AXES = [WIDE, LEAN];

const piece = (word: Partial<Text> = {}, state: object = {}): Piece => ({
  ...{ format: 1, id: 'p', name: 'P', width: 100, height: 100, start: 'a' },
  layers: [{ kind: 'text', id: 'word', name: 'Word', text: 'Pier', x: 0, y: 0, width: 50, height: 20, ...word }],
  states: [
    { id: 'a', name: 'A' },
    { id: 'b', name: 'B', changes: { word: state } },
  ],
});
const axesOf = (now: Piece, at: number) => {
  const own = (known(now.states[at]).changes as Record<string, { font_axes?: unknown }> | undefined)?.word?.font_axes;
  return own ?? (known(now.layers)[0] as Text).font_axes;
};
const taken = (rest: Partial<FontTaken> = {}): FontTaken => ({
  ...{ family: 'Quay', source: 'data:1', weights: [400, 400] as [number, number], characters: 'U+41-5A' },
  ...rest,
});
const factsOf = (...files: FontTaken[]): FontFacts => ({ files, axes: [], may_be_sent: true });

describe('a place on an axis', () => {
  it('makes the layer say all axes, so that states can differ in one', () => {
    const edit = setAxis(piece(), 'b', ['word'], { tag: 'wdth', value: 80, axes: AXES, scope: 'state' });
    const now = patched(piece(), edit.patch);
    expect(edit.label).toContain('Width');
    expect(axesOf(now, 0)).toEqual([
      { axis: 'wdth', value: 100 },
      { axis: 'slnt', value: 0 },
    ]);
    expect(axesOf(now, 1)).toEqual([
      { axis: 'wdth', value: 80 },
      { axis: 'slnt', value: 0 },
    ]);
  });

  it('brings what states say along when there are more axes', () => {
    const before = piece({ font_axes: [{ axis: 'slnt', value: -3 }] }, { font_axes: [{ axis: 'slnt', value: -9 }] });
    const edit = setAxis(before, 'a', ['word'], { tag: 'wdth', value: 90, axes: AXES, scope: 'base' });
    const now = patched(before, edit.patch);
    expect(axesOf(now, 0)).toEqual([
      { axis: 'slnt', value: -3 },
      { axis: 'wdth', value: 90 },
    ]);
    expect(axesOf(now, 1)).toEqual([
      { axis: 'slnt', value: -9 },
      { axis: 'wdth', value: 100 },
    ]);
  });

  it('is typed and read as text in the score', () => {
    const row = known(PROPERTIES.find(({ name }) => name === 'font_axes'));
    const value = [
      { axis: 'wdth', value: 80 },
      { axis: 'slnt', value: -5 },
    ];
    expect(parseValue(row, valueText(value))).toEqual({ value });
    expect(parseValue(row, 'none')).toEqual({ value: [] });
    for (const wrong of ['wdth', 'wide 3 4', 'wdth x', 'wid 3']) expect(parseValue(row, wrong)).toHaveProperty('fault');
  });
});

describe('a font that is brought in', () => {
  const first = patched(piece(), bringFont(piece(), taken(), undefined).patch);

  it('is there once, under a name that no shipped one has', () => {
    expect(fontsOf(first)).toEqual([{ family: 'Quay', files: ['data:1'] }]);
    expect(bringFont(first, taken(), factsOf(taken())).patch).toEqual([]);
    expect(bringFont(piece(), taken({ family: 'JetBrains Mono' }), undefined).label).toBe('Bring in JetBrains Mono 2');
    expect(shareFont(first, 'Quay', ['data:9']).patch).toEqual([]);
  });

  it.each([
    ['another weight stands beside it', { weights: [700, 700] as [number, number] }, ['data:1', 'data:2']],
    ['other letters do too', { characters: 'U+391-3A9, U+41' }, ['data:1', 'data:2']],
    ['the same letters take its place', { characters: 'U+20-7E' }, ['data:2']],
  ])('%s', (_, rest, files) => {
    const edit = bringFont(first, taken({ source: 'data:2', ...rest }), factsOf(taken()));
    expect(known(fontsOf(patched(first, edit.patch))[0]).files).toEqual(files);
  });

  it('goes when no state is set in it', () => {
    const set = { ...first, ...piece({}, { font_family: 'Quay' }), fonts: first.fonts as NonNullable<Piece['fonts']> };
    expect(textsIn(set, 'Quay')).toEqual(['word']);
    expect(() => dropFont(set, 'Quay')).toThrow('Word is set in Quay');
    expect(fontsOf(patched(first, dropFont(first, 'Quay').patch))).toEqual([]);
  });
});
