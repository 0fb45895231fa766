import { expect, it } from 'vitest';
import { answerIn, knownParts } from './parts';

const FILM = 'data:video/mp4;base64,AAAA';
const marked = (parts: Record<string, string>) =>
  new Response(JSON.stringify({ parts, answer: { looks: [{ source: '\u001fabc' }, { source: '\u001fabc', x: 1 }] } }), {
    headers: { 'X-Parts': 'apart' },
  });

it('puts what is told once where it stands, also when it is not told again', async () => {
  const looks = [{ source: FILM }, { source: FILM, x: 1 }];
  expect(await answerIn(marked({ abc: FILM }))).toEqual({ looks });
  expect(knownParts()).toEqual({ 'X-Parts': 'abc' });
  expect(await answerIn(marked({}))).toEqual({ looks });
});

it('leaves other answers as they are', async () => {
  expect(await answerIn(new Response('{"text":"\\u001fnowhere"}'))).toEqual({ text: '\u001fnowhere' });
});
