// @vitest-environment node
// @vitest-environment node
import { parse, type Token } from '@messageformat/parser';
import MessageFormat from '@messageformat/core';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import { compile } from '../../build/messages.ts';
import { grammarKey } from '../src/shell/configurator/texts.ts';

const root = join(import.meta.dirname, '../..');
const folders = [
  'form/src/messages',
  'console/src/shell/messages',
  'console/src/shell/configurator/messages',
  'console/src/shell/configurator/grammar/messages',
];
const tables = (folder: string): Record<string, Record<string, string>> =>
  Object.fromEntries(
    readdirSync(join(root, folder)).map((file) => [
      file.replace('.json', ''),
      JSON.parse(readFileSync(join(root, folder, file), 'utf8')) as Record<string, string>,
    ]),
  );
/** Texts that are the same in two languages, and rightly so. */
const alike = JSON.parse(readFileSync(join(import.meta.dirname, 'alikeTexts.json'), 'utf8')) as Record<string, string[]>;

/** What a message asks for, and how it counts: the number of a value, and the forms it has for it. */
function holes(tokens: Token[]): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const token of tokens) {
    if (token.type === 'argument') found.set(token.arg, found.get(token.arg) ?? []);
    else if (token.type === 'plural' || token.type === 'select' || token.type === 'selectordinal') {
      found.set(
        token.arg,
        token.type === 'plural'
          ? token.cases
              .map((each) => each.key)
              .filter((key) => !key.startsWith('='))
              .sort()
          : [],
      );
      for (const each of token.cases) for (const [arg, forms] of holes(each.tokens)) found.set(arg, found.get(arg) ?? forms);
    }
  }
  return found;
}

describe.each(folders)('%s', (folder) => {
  const { en, ...others } = tables(folder);

  it('speaks English, Dutch and Arabic', () => {
    expect(Object.keys(others).sort()).toEqual(['ar', 'nl']);
  });

  it.each(['nl', 'ar'])('is whole in %s, with the same places for values and each form of a number', (language) => {
    const table = others[language]!;
    expect(Object.keys(table).sort()).toEqual(Object.keys(en!).sort());
    const forms = new Intl.PluralRules(language).resolvedOptions().pluralCategories.slice().sort();
    for (const [key, text] of Object.entries(table)) {
      expect(text.trim(), key).not.toBe('');
      const [said, meant] = [holes(parse(text)), holes(parse(en![key]!))];
      expect([...said.keys()].sort(), key).toEqual([...meant.keys()].sort());
      for (const counted of said.values()) if (counted.length > 0) expect(counted, key).toEqual(forms);
      if (!alike[folder]?.includes(`${language} ${key}`)) expect(text, key).not.toBe(en![key]);
    }
    expect(() => new MessageFormat(language).compile('{0}')).not.toThrow();
  });

  it('lists as alike only what is', () => {
    const stale = (alike[folder] ?? []).filter((each) => {
      const [language, key] = each.split(' ');
      return others[language!]?.[key!] !== en![key!];
    });
    expect(stale).toEqual([]);
  });
});

describe('the grammar', () => {
  it('is found by what it says in English', () => {
    const { en } = tables('console/src/shell/configurator/grammar/messages');
    for (const [key, text] of Object.entries(en!)) expect(grammarKey(key.split('.')[0] as 'label', text)).toBe(key);
  });
});

describe('a message file', () => {
  it('becomes a module without a parser', async () => {
    const code = compile('ar', {
      plain: 'نعم',
      open: '{0, plural, zero {لا} one {واحد} two {اثنان} few {# قليل} many {# كثير} other {# غير}} في {1}',
    });
    const start = code.indexOf('export default');
    expect(code.slice(0, start)).toMatch(/^(import .*\n)+$/);
    expect(code).toContain('"plain":"نعم"');
    expect(code).toContain('ar-u-nu-latn');
  });
});

/** Attributes that are read or heard. */
const spoken =
  /^(title|label|placeholder|alt|hint|about|whole|aria-label|aria-description|aria-roledescription|aria-valuetext|data-label)$/;

/** The texts an expression may come to: through choices and joins, not through calls, which are asked for theirs elsewhere. */
function textsOf(expression: ts.Expression): string[] {
  if (ts.isStringLiteral(expression) || ts.isNoSubstitutionTemplateLiteral(expression)) return [expression.text];
  if (ts.isTemplateExpression(expression)) return [expression.head.text, ...expression.templateSpans.map((span) => span.literal.text)];
  if (ts.isConditionalExpression(expression)) return [...textsOf(expression.whenTrue), ...textsOf(expression.whenFalse)];
  if (ts.isParenthesizedExpression(expression)) return textsOf(expression.expression);
  if (!ts.isBinaryExpression(expression)) return [];
  const joins = [ts.SyntaxKind.BarBarToken, ts.SyntaxKind.QuestionQuestionToken, ts.SyntaxKind.PlusToken];
  if (joins.includes(expression.operatorToken.kind)) return [...textsOf(expression.left), ...textsOf(expression.right)];
  return expression.operatorToken.kind === ts.SyntaxKind.AmpersandAmpersandToken ? textsOf(expression.right) : [];
}

/** Properties of objects whose texts are read: of commands, notices, options, rows. */
const told = /^(name|label|title|text|about|hint|message|more|act|subject|detail)$/;

/** Texts that stand in code instead of a message file: between tags, in an attribute that is read or heard, in what is told. */
function textsIn(file: string): string[] {
  const source = ts.createSourceFile(
    file,
    readFileSync(file, 'utf8'),
    ts.ScriptTarget.Latest,
    true,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isJsxText(node)) found.push(node.text);
    if (ts.isJsxExpression(node) && node.expression && !ts.isJsxAttribute(node.parent)) found.push(...textsOf(node.expression));
    if (ts.isJsxAttribute(node) && spoken.test(node.name.getText()) && node.initializer) {
      if (ts.isStringLiteral(node.initializer)) found.push(node.initializer.text);
      else if (ts.isJsxExpression(node.initializer) && node.initializer.expression) found.push(...textsOf(node.initializer.expression));
    }
    if (ts.isPropertyAssignment(node) && told.test(node.name.getText())) {
      // One word alone is a key, or a mark.
      found.push(...textsOf(node.initializer).filter((text) => /\p{L}{2}.* |^ .*\p{L}{2}/u.test(text)));
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found.map((text) => text.trim()).filter((text) => /\p{L}{2}/u.test(text));
}

describe('pages', () => {
  const files = readdirSync(join(root, 'console/src'), { recursive: true, encoding: 'utf8' }).filter((name) =>
    /(?<!\.gen)\.tsx?$/.test(name),
  );

  it('say nothing that is not in a message file', () => {
    expect(files.length).toBeGreaterThan(150);
    /** Examples of patterns, conditions and units, and names of keys, the same in every language. */
    const alikeEverywhere = ['[A-Z][0-9]{3}', "record.propulsion == 'sail'", 'px', '(Ctrl+Z)', '(Ctrl+Shift+Z)'];
    expect(
      files.flatMap((file) =>
        textsIn(join(root, 'console/src', file))
          .filter((text) => !alikeEverywhere.includes(text))
          .map((text) => `${file}: ${text}`),
      ),
    ).toEqual([]);
  });
});
