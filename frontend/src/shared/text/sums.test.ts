import { describe, expect, it } from 'vitest';
import { evaluate, show } from './sums';

describe('evaluate', () => {
  it.each([
    ['146', 146],
    [' -5 ', -5],
    ['.5', 0.5],
    ['0,25', 0.25],
    ['146-42', 104],
    ['−6', -6],
    ['2*(3+4)', 14],
    ['10/4', 2.5],
    ['1+2*3', 7],
    ['0.1+0.2', 0.3],
    ['--2', 2],
    ['-20.333333333333332', -20.333333333333332],
  ])('%s is %d', (text, value) => expect(evaluate(text)).toBe(value));

  it.each(['', 'abc', '12px', '1/0', '(1', '1)', '1 2', '1.2.3', '*2', 'Infinity', '1e3'])('%s is nothing', (text) =>
    expect(evaluate(text)).toBeNull(),
  );
});

describe('show', () => {
  it.each([
    [104, 'px', '104'],
    [-6, '°', '−6°'],
    [1 / 3, '', '0.333'],
    [0.45, '', '0.45'],
  ])('%d %s reads %s', (value, unit, text) => expect(show(value, unit)).toBe(text));
});
