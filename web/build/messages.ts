import compileModule from '@messageformat/core/lib/compile-module.js';
import MessageFormat from '@messageformat/core';
import { readFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import type { Plugin } from 'vite';

const file = /\/messages\/[a-z]{2}(-\w+)*\.json$/;
const suffix = '.compiled.js';

/**
 * Message files (ICU, one a language) as modules: plain texts as they are, those with values as functions. Nothing is read or compiled in
 * the browser.
 */
export function messages(): Plugin {
  return {
    name: 'messages',
    enforce: 'pre',
    resolveId(source, importer) {
      if (!importer || !file.test(source)) return undefined;
      return join(dirname(importer.replace(/\?.*$/, '')), source) + suffix;
    },
    load(id) {
      if (!id.endsWith(suffix)) return undefined;
      const path = id.slice(0, -suffix.length);
      this.addWatchFile(path);
      return compile(basename(path, '.json'), JSON.parse(readFileSync(path, 'utf8')) as Record<string, string>);
    },
  };
}

/** The module a message file becomes. Numbers are written in Western digits, as everywhere in the console. */
export function compile(language: string, texts: Record<string, string>): string {
  const plain: Record<string, string> = {};
  const open: Record<string, string> = {};
  for (const [key, text] of Object.entries(texts)) (/[{}]/.test(text) ? open : plain)[key] = text;
  const code = compileModule(new MessageFormat(language), open).replaceAll(`number("${language}"`, `number("${language}-u-nu-latn"`);
  return code.replace('export default {', () => `export default {\n  ...${JSON.stringify(plain)},`);
}
