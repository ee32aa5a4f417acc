// @vitest-environment node
// @vitest-environment node
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '../..');
const options = ts.parseJsonConfigFileContent(
  ts.readConfigFile(join(root, 'tsconfig.base.json'), ts.sys.readFile).config,
  ts.sys,
  root,
).options;

/** Folders from the ground up: each may use those of the lines before its own, and none beside it. */
const storeys: Record<string, string[][]> = {
  'layout/src': [['']],
  'form/src': [['patterns', 'dom'], ['model'], ['conditions'], ['values'], ['state'], ['editors'], ['drawing'], ['']],
  'console/src': [
    ['api'],
    ['shell'],
    ['shell/configurator'],
    ['ui'],
    ['runtime'],
    ['features/bundles', 'features/comments', 'features/people'],
    ['features/documents'],
    ['features/releases', 'features/records'],
    ['features/application', 'features/data', 'features/designer'],
    ['features'],
    [''],
  ],
};

/** What each file uses, as the compiler resolves it: of this package by path below web/, of a library by name. Types count as well. */
const uses = new Map(
  Object.keys(storeys).flatMap((source) =>
    readdirSync(join(root, source), { recursive: true, encoding: 'utf8' })
      .filter((name) => /\.tsx?$/.test(name))
      .map((name) => {
        const file = join(root, source, name);
        return [
          `${source}/${name}`,
          ts.preProcessFile(readFileSync(file, 'utf8')).importedFiles.map(({ fileName }) => {
            const found = ts.resolveModuleName(fileName, file, options, ts.sys).resolvedModule;
            return found && !found.isExternalLibraryImport ? relative(root, found.resolvedFileName) : fileName;
          }),
        ] as const;
      }),
  ),
);

const sourceOf = (file: string) => Object.keys(storeys).find((source) => file.startsWith(`${source}/`));
const folderOf = (file: string) => relative(sourceOf(file)!, dirname(file));

/** Sets of nodes each of which leads to every other (Tarjan, 1972). */
function circles(graph: ReadonlyMap<string, Iterable<string>>): string[][] {
  const [index, low, stack, found] = [new Map<string, number>(), new Map<string, number>(), [] as string[], [] as string[][]];
  const visit = (node: string) => {
    index.set(node, index.size);
    low.set(node, index.get(node)!);
    stack.push(node);
    for (const next of graph.get(node) ?? []) {
      if (!index.has(next)) {
        visit(next);
        low.set(node, Math.min(low.get(node)!, low.get(next)!));
      } else if (stack.includes(next)) low.set(node, Math.min(low.get(node)!, index.get(next)!));
    }
    if (low.get(node) !== index.get(node)) return;
    const circle = stack.splice(stack.indexOf(node));
    if (circle.length > 1) found.push(circle);
  };
  for (const node of graph.keys()) if (!index.has(node)) visit(node);
  return found;
}

describe('the front end', () => {
  it('is read whole', () => {
    expect(uses.size).toBeGreaterThan(150);
    expect(uses.get('console/src/main.ts')).toContain('console/src/runtime/App.ts');
    expect(
      circles(
        new Map([
          ['a', ['b']],
          ['b', ['c']],
          ['c', ['b']],
        ]),
      ),
    ).toEqual([['b', 'c']]);
  });

  it('has no circle of files', () => {
    expect(circles(uses)).toEqual([]);
  });

  it('has folders that use only what lies below them', () => {
    const wrong = [...uses].flatMap(([file, used]) => {
      const source = sourceOf(file)!;
      const storey = (folder: string) => storeys[source]!.findIndex((folders) => folders.includes(folder));
      const own = storey(folderOf(file));
      return own < 0
        ? [`${file} has no storey`]
        : used
            .filter((each) => sourceOf(each) === source && folderOf(each) !== folderOf(file) && storey(folderOf(each)) >= own)
            .map((each) => `${file} uses ${each}`);
    });
    expect(wrong).toEqual([]);
  });

  it('has features that know of another only what its index offers', () => {
    const feature = (file: string) => /^console\/src\/features\/(\w+)\//.exec(file)?.[1];
    expect(
      [...uses].flatMap(([file, used]) =>
        feature(file)
          ? used
              .filter((each) => feature(each) && feature(each) !== feature(file) && !each.endsWith('/index.ts'))
              .map((each) => `${file} uses ${each}`)
          : [],
      ),
    ).toEqual([]);
  });

  it('applies edits and places what comes without a page, a library or anything else of ours', () => {
    expect(
      [...uses]
        .filter(([file]) => file.startsWith('layout/'))
        .flatMap(([file, used]) => used.filter((each) => !each.startsWith('layout/')).map((each) => `${file} uses ${each}`)),
    ).toEqual([]);
  });

  it('draws forms without the console and without a library, but for the calendar, which is fetched when it is opened', () => {
    const staticImports = [...uses.keys()].filter((file) =>
      /^(import|export) .*\/calendar\.ts';$/m.test(readFileSync(join(root, file), 'utf8')),
    );
    expect(staticImports).toEqual([]);
    expect(
      [...uses]
        .filter(([file]) => file.startsWith('form/'))
        .flatMap(([file, used]) =>
          used.filter((each) => !each.startsWith('form/') && !/\.css(\?inline)?$/.test(each)).map((each) => `${file} uses ${each}`),
        ),
    ).toEqual(['form/src/editors/monthGrid.ts uses @internationalized/date']);
  });

  it('uses of the packages only what they offer', () => {
    expect(
      [...uses]
        .filter(([file]) => file.startsWith('console/'))
        .flatMap(([file, used]) =>
          used
            .filter(
              (each) =>
                (each.startsWith('form/') && !['form/src/index.ts', 'form/src/model/texts.ts'].includes(each)) ||
                (each.startsWith('layout/') && each !== 'layout/src/index.ts'),
            )
            .map((each) => `${file} uses ${each}`),
        ),
    ).toEqual([]);
  });

  it('loads no components before something asks for them', () => {
    // Types are gone in the browser, and what is imported as a function is fetched when it is called.
    const loaded = (file: string) => {
      const source = ts.createSourceFile(file, readFileSync(join(root, file), 'utf8'), ts.ScriptTarget.Latest);
      const passedOn = source.statements.filter(ts.isExportDeclaration).filter((each) => !each.isTypeOnly && each.moduleSpecifier);
      const used = source.statements.filter(ts.isImportDeclaration).filter(({ importClause: clause }) => {
        const names = clause?.namedBindings;
        if (clause?.isTypeOnly) return false;
        return !names || !ts.isNamedImports(names) || clause.name || names.elements.some((each) => !each.isTypeOnly);
      });
      return [...used, ...passedOn]
        .map((each) => (each.moduleSpecifier as ts.StringLiteral).text)
        .map((name) => {
          const found = ts.resolveModuleName(name, join(root, file), options, ts.sys).resolvedModule;
          return found && !found.isExternalLibraryImport ? relative(root, found.resolvedFileName) : name;
        });
    };
    const seen = new Set<string>();
    const visit = (file: string): void => {
      if (seen.has(file)) return;
      seen.add(file);
      if (/\.tsx?$/.test(file)) for (const each of loaded(file)) visit(each);
    };
    visit('console/src/main.ts');
    expect(seen.size).toBeGreaterThan(60);
    expect([...seen].filter((each) => /^(react|@tanstack|@atlaskit|@codemirror)|\.tsx$/.test(each))).toEqual([]);
  });

  it('is built from what is installed where nothing is tested', () => {
    const { dependencies } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')) as { dependencies: Record<string, string> };
    const libraries = ['build/messages.ts', 'console/vite.config.ts', 'form/vite.config.ts']
      .flatMap((file) => ts.preProcessFile(readFileSync(join(root, file), 'utf8')).importedFiles.map((each) => each.fileName))
      .filter((name) => !/^(\.|node:)/.test(name))
      .map((name) =>
        name
          .split('/')
          .slice(0, name.startsWith('@') ? 2 : 1)
          .join('/'),
      );
    expect(libraries.length).toBeGreaterThan(3);
    expect(libraries.filter((name) => !(name in dependencies))).toEqual([]);
  });
});
