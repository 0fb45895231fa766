import { describe, expect, it } from 'vitest';
import { keyName, parseKey } from './cues';

describe('a key', () => {
  it.each(['k', 'é', '7', 'Space', 'Enter', 'ArrowRight', 'F12'])('%s is one, and is shown so', (text) => {
    const { value = '' } = parseKey(text);
    expect(keyName(value)).toBe(text);
  });
  it.each(['', 'Foo Bar', 'enter', 'X'.repeat(40)])('“%s” is none', (text) =>
    expect(parseKey(text)).toHaveProperty('fault'),
  );
});
