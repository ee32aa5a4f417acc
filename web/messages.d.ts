import type { Plugin } from 'vite';
/**
 * Message files (ICU, one a language) as modules: plain texts as they are, those with values as functions. Nothing is read or compiled in
 * the browser.
 */
export declare function messages(): Plugin;
/** The module a message file becomes. Numbers are written in Western digits, as everywhere in the console. */
export declare function compile(language: string, texts: Record<string, string>): string;
