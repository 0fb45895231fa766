/* Validators and parsers of others, asked of files: `node judge.mjs FOLDER` writes a line of JSON for each of them. */
import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';
import { defineConfig, parse } from '@terrazzo/parser';
import { validate } from 'csstree-validator';
import { HtmlValidate } from 'html-validate';
import StyleDictionary from 'style-dictionary';

const require = createRequire(import.meta.url);
const { Ajv2020 } = require('ajv/dist/2020.js');
const specs = require('@lottie-animation-community/lottie-specs/src/validator-node.js');

const html = new HtmlValidate({ root: true, extends: ['html-validate:standard'] });
const lottie = new specs.LottieValidator(Ajv2020, JSON.parse(readFileSync(specs.get_schema_path(), 'utf8')));
const config = defineConfig({ lint: { rules: {} } }, { cwd: pathToFileURL(`${process.cwd()}/`) });

/** How many tokens a parser finds, or why it finds none. */
async function tokens(found) {
  try {
    return { count: await found(), faults: [] };
  } catch (fault) {
    return { count: 0, faults: [fault.message] };
  }
}

const JUDGES = {
  'html-validate': ['.html', async (text) => {
    const { results } = await html.validateString(text);
    return { faults: results.flatMap(({ messages }) => messages.map((each) => `${each.line}: ${each.message}`)) };
  }],
  'csstree-validator': ['.css', (text) => ({ faults: validate(text).map((each) => `${each.line}: ${each.message}`) })],
  // It warns of properties that the schema does not name, which it allows.
  'Lottie schema': ['.lottie.json', (text) => {
    const faults = lottie.validate(JSON.parse(text)).filter(({ type }) => type !== 'warning');
    return { faults: faults.map(({ path, message }) => `${path}: ${message}`) };
  }],
  'style-dictionary': ['.tokens.json', (text) => tokens(async () => {
    const log = { verbosity: 'silent', warnings: 'error' };
    const read = new StyleDictionary({ tokens: JSON.parse(text), log, platforms: { css: { transformGroup: 'css' } } });
    return (await read.getPlatformTokens('css')).allTokens.length;
  })],
  terrazzo: ['.tokens.json', (text, path) => tokens(async () => {
    const read = await parse([{ filename: pathToFileURL(path), src: text }], { config, skipLint: true });
    return Object.keys(read.tokens).length;
  })],
};

const [folder] = process.argv.slice(2);
for (const file of readdirSync(folder).sort()) {
  for (const [judge, [ending, ask]] of Object.entries(JUDGES)) {
    if (!file.endsWith(ending)) continue;
    const path = `${folder}/${file}`;
    console.log(JSON.stringify({ judge, file, ...(await ask(readFileSync(path, 'utf8'), path)) }));
  }
}
