import { describe, expect, it } from 'vitest';
import { after, piece } from './example';
import { guidesOf, moveGuide, parsePlaces, setGuides } from './guides';

describe('guides', () => {
  it.each([
    ['24, 16;8 16px', [8, 16, 24]],
    ['', []],
    ['-4.5', [-4.5]],
  ])('%j are places', (text, value) => expect(parsePlaces(text)).toEqual({ value }));

  it.each([
    ['16 wide', /“wide” is not a number/],
    ['9000', /too far away/],
    [Array.from({ length: 101 }, (_, i) => i).join(' '), /at most 100/],
  ])('%j says what is wrong', (text, said) => expect((parsePlaces(text) as { fault: string }).fault).toMatch(said));

  it('are moved, taken away, and leave nothing behind', () => {
    const two = after(setGuides(piece, { upright: [10, 20] }));
    expect(guidesOf(after(moveGuide(two, 'upright', 1, 25), two)).upright).toEqual([10, 25]);
    expect(guidesOf(after(moveGuide(two, 'upright', 0, 20), two)).upright).toEqual([20]);
    const one = after(moveGuide(two, 'upright', 0, null), two);
    expect(one.guides).toEqual({ upright: [20], level: [], grid: null });
    expect(after(moveGuide(one, 'upright', 0, null), one).guides).toBeNull();
  });
});
