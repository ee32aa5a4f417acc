// Says how much of the code the tests went over, and where least: from the front end's summary (JSON) and C# reports (Cobertura).
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";

const [folder] = process.argv.slice(2);
/** Lines of a file, and those gone over: by any project's tests. */
const files = new Map();
const add = (path, line, hit) => {
  const lines = files.get(path) ?? new Map();
  lines.set(line, (lines.get(line) ?? false) || hit);
  files.set(path, lines);
};

const web = join(folder, "web", "coverage-final.json");
if (existsSync(web)) {
  for (const [path, file] of Object.entries(
    JSON.parse(readFileSync(web, "utf8")),
  ))
    for (const [id, { start }] of Object.entries(file.statementMap))
      add(relative(".", path), start.line, file.s[id] > 0);
}
for (const report of readdirSync(folder).filter((name) =>
  name.endsWith(".xml"),
)) {
  let path = "";
  for (const [, name, number, hits] of readFileSync(
    join(folder, report),
    "utf8",
  ).matchAll(/filename="([^"]+)"|<line number="(\d+)" hits="(\d+)"/g)) {
    if (name) path = relative(".", name);
    else add(path, Number(number), Number(hits) > 0);
  }
}

/** What is written by tools counts for nothing. */
const isOurs = (path) =>
  /^(src|web\/[a-z]+\/src)\//.test(path) &&
  !/\/(Migrations|CompiledModel|obj)\/|\.gen\.ts$|\.g\.cs$/.test(path);
const covered = [...files]
  .filter(([path]) => isOurs(path))
  .map(([path, lines]) => ({
    path,
    all: lines.size,
    hit: [...lines.values()].filter(Boolean).length,
  }));
const share = ({ all, hit }) => (all === 0 ? 1 : hit / all);
const sum = (of) =>
  of.reduce(
    (so, each) => ({ all: so.all + each.all, hit: so.hit + each.hit }),
    { all: 0, hit: 0 },
  );
const percent = (of) => `${(share(of) * 100).toFixed(1)} %`;
const groups = [
  ...new Set(covered.map(({ path }) => path.split("/").slice(0, 2).join("/"))),
].sort();
for (const group of groups)
  console.log(
    `${percent(sum(covered.filter(({ path }) => path.startsWith(`${group}/`)))).padStart(8)}  ${group}`,
  );
console.log("\nThinnest, of files with twenty lines and more:");
for (const each of covered
  .filter(({ all }) => all >= 20)
  .sort((a, b) => share(a) - share(b))
  .slice(0, 10))
  console.log(
    `${percent(each).padStart(8)}  ${each.path} (${each.hit} of ${each.all})`,
  );
