import { describe, expect, it } from 'vitest';
import { AXES, colourText, coordinatesOf, type Space } from './colours';
import { known } from '../../../shared/known';

describe('colours', () => {
  it.each(
    ['#1f7a70', '#b9832b', '#000000', '#ffffff', '#d9503a80', '#808080', '#0000ff'].flatMap((c) =>
      (['hsl', 'oklch'] as Space[]).map((s) => [c, s] as const),
    ),
  )('%s is found again by its coordinates in %s', (colour, space) => {
    expect(colourText(known(coordinatesOf(colour, space)), space)).toBe(colour);
  });

  it('keep their hue through grey', () => {
    const teal = known(coordinatesOf('#1f7a70', 'hsl'));
    expect(known(coordinatesOf('#777777', 'hsl', teal)).numbers[0]).toBe(teal.numbers[0]);
  });

  it('that no screen shows lose chroma, not hue', () => {
    const wild = { numbers: [60, known(AXES.oklch[1]).most, 150] as [number, number, number], alpha: 1 };
    const shown = known(coordinatesOf(colourText(wild, 'oklch'), 'oklch'));
    expect(shown.numbers[2]).toBeCloseTo(150, -1);
    expect(shown.numbers[1]).toBeLessThan(0.3);
  });

  it('are none where there is none', () => {
    expect([coordinatesOf('none', 'hsl'), coordinatesOf('teal blue', 'hsl')]).toEqual([null, null]);
  });
});
