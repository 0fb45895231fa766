import { expect, test } from 'vitest';
import { inFile } from './held';

const loop = { begin_ms: 300, end_ms: 1300, again: true };
const once = { begin_ms: 0, end_ms: 800, again: false };

test.each([
  ['a page plays all of the run', null, 1750, 1750],
  ['before the loop is its first moment', loop, 120, 0],
  ['the loop begins with the file', loop, 300, 0],
  ['within it', loop, 800, 500],
  ['it goes round', loop, 2800, 500],
  ['what ends stays', once, 900, 800],
  ['what has no length', { begin_ms: 0, end_ms: 0, again: true }, 50, 0],
] as const)('%s', (_, part, t, found) => expect(inFile(t, part)).toBe(found));
