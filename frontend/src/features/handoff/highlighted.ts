/* Code in colours; loaded only where code is looked at. */
import hljs from 'highlight.js/lib/core';
import css from 'highlight.js/lib/languages/css';
import javascript from 'highlight.js/lib/languages/javascript';
import json from 'highlight.js/lib/languages/json';
import markdown from 'highlight.js/lib/languages/markdown';
import typescript from 'highlight.js/lib/languages/typescript';
import xml from 'highlight.js/lib/languages/xml';

for (const [name, language] of Object.entries({ css, javascript, json, markdown, typescript, xml }))
  hljs.registerLanguage(name, language);

/** By the last part of an ending; what is not here stays plain. */
const LANGUAGES: Readonly<Record<string, string>> = {
  css: 'css',
  html: 'xml',
  js: 'javascript',
  json: 'json',
  md: 'markdown',
  ts: 'typescript',
  tsx: 'typescript',
};

export interface Mark {
  text: string;
  /** What it is in the language; empty for what is nothing in particular. */
  kind: string;
}

/** The text in parts, each with what it is. */
export function marksOf(text: string, ending: string): Mark[] {
  const language = LANGUAGES[ending.split('.').at(-1) ?? ''];
  if (!language) return [{ text, kind: '' }];
  const holder = document.createElement('template');
  holder.innerHTML = hljs.highlight(text, { language, ignoreIllegals: true }).value;
  return [...holder.content.childNodes].flatMap((node) => marksIn(node, ''));
}

function marksIn(node: Node, kind: string): Mark[] {
  if (node.nodeType === Node.TEXT_NODE) return [{ text: node.textContent ?? '', kind }];
  const own = (node as Element).className.split(' ')[0]?.replace('hljs-', '') ?? kind;
  return [...node.childNodes].flatMap((child) => marksIn(child, own));
}
