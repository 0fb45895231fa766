import { describe, expect, it } from 'vitest';
import { bezierText, easingOf, handlesOf, limitOf } from './bezier';

describe('easings as they are typed', () => {
  it.each([
    ['0.2 0 0.2 1', 'cubic-bezier(0.2, 0, 0.2, 1)'],
    ['.2,-.5; .3, 1.4', 'cubic-bezier(0.2, -0.5, 0.3, 1.4)'],
    ['ease-out', 'ease-out'],
    ['0.2 0 0.2', '0.2 0 0.2'],
    ['steps(4)', 'steps(4)'],
  ])('%s is %s', (text, easing) => expect(easingOf(text)).toBe(easing));

  it.each([
    [1.1, 0.5, /time of its curve/],
    [0.5, 2.2, /from -1 to 2/],
    [1, -1, /^$/],
  ])('a handle asked to %d, %d says why it stops', (u, p, said) => expect(limitOf(u, p)).toMatch(said));

  it('handles are read and written alike', () => {
    expect(handlesOf(easingOf('0.2 0 0.2 1'))).toEqual([0.2, 0, 0.2, 1]);
    expect(bezierText([1.2, 3, -1, -2])).toBe('cubic-bezier(1, 2, 0, -1)');
    expect(handlesOf('cubic-bezier(1, 2)')).toBeNull();
  });
});
