import { describe, expect, it } from 'vitest';
import { changeOf, evaluate, show } from './sums';

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
    ['=3*4', 12],
    ['1e3', 1000],
    ['2.5E-1', 0.25],
    ['50%', 0.5],
  ])('%s is %d', (text, value) => expect(evaluate(text)).toBe(value));

  it.each([
    ['12px', 'px', 12],
    ['12px + 3', 'px', 15],
    ['90°', '°', 90],
    ['90 deg', '°', 90],
    ['1.5s', 'ms', 1500],
    ['250MS', 's', 0.25],
  ])('%s in %s is %d', (text, unit, value) => expect(evaluate(text, unit)).toBe(value));
  it.each([
    ['12px', 'ms'],
    ['3em', 'px'],
    ['px', 'px'],
    ['1 px px', 'px'],
  ])('%s in %s is nothing', (text, unit) => expect(evaluate(text, unit)).toBeNull());

  it.each(['', 'abc', '12px', '1/0', '(1', '1)', '1 2', '1.2.3', '*2', 'Infinity', '1e999', '==1'])(
    '%s is nothing',
    (text) => expect(evaluate(text)).toBeNull(),
  );
});

describe('changeOf', () => {
  it.each([
    ['+40', 100, 140],
    ['-10%', 200, 180],
    ['+50%', 200, 300],
    ['*0.5', 90, 45],
    ['/2', 90, 45],
    ['-30', 100, 70],
    ['120', 7, 120],
    ['=-5', 7, -5],
    ['0.1s', 7, 100],
  ])('%s of %d is %d', (text, from, to) => expect(changeOf(text, 'ms')?.(from)).toBeCloseTo(to));
  it.each(['', 'abc', '*', '/0', '*10%'])('%s is no change', (text) => expect(changeOf(text, 'ms')).toBeNull());
});

describe('show', () => {
  it.each([
    [104, 'px', '104'],
    [-6, '°', '−6°'],
    [1 / 3, '', '0.333'],
    [0.45, '', '0.45'],
  ])('%d %s reads %s', (value, unit, text) => expect(show(value, unit)).toBe(text));
});
