import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path/posix';
import { nodeBin, root } from './ensure.mjs';

/**
 * `npm run lint`: rules, one format, no line longer than can be read, and what every public function of core says.
 * `npm run lint -- --fix` writes the format.
 */
const LONGEST = 160;
/** So many of the functions most often imported show an example. */
const SHOWN = 20;
const fix = process.argv.includes('--fix');

const run = (program, args) => spawnSync(program, args, { cwd: root, stdio: 'inherit' }).status === 0;
const rules = run(nodeBin('oxlint'), ['--config', '.oxlintrc.json', '.']);
const format = run(nodeBin('prettier'), ['--cache', '--log-level', 'warn', fix ? '--write' : '--check', '**/*.{ts,tsx,mjs}']);

const files = spawnSync('git', ['ls-files', '*.ts', '*.tsx', '*.mjs'], { cwd: root, encoding: 'utf8' }).stdout.split('\n').filter(Boolean);
const text = new Map(files.map((file) => [file, readFileSync(join(root, file), 'utf8')]));
const faults = [...longLines(), ...undocumented()];
for (const fault of faults) console.error(fault);
process.exit(rules && format && faults.length === 0 ? 0 : 1);

function longLines() {
  return [...text].flatMap(([file, content]) =>
    content.split('\n').flatMap((line, i) => (line.length > LONGEST ? [`${file}:${i + 1}: ${line.length} characters, ${LONGEST} are the most`] : [])),
  );
}

/** Functions that core exports without a word, and of the most imported ones those without an example. */
function undocumented() {
  const known = new Map();
  const out = [];
  for (const [file, content] of text) {
    if (!file.startsWith('core/src/') || /\.test\.ts$|\/testing\/|\/conformance\//.test(file)) continue;
    const lines = content.split('\n');
    lines.forEach((line, i) => {
      const name = (line.match(/^export (?:async )?function\*? (\w+)/) ?? line.match(/^export const (\w+)(?::[^=]*)? = (?:async )?(?:<[^>]*>)?\(/))?.[1];
      if (!name) return;
      if (!lines[i - 1].endsWith('*/')) out.push(`${file}:${i + 1}: ${name} does not say what it is: shapes, units, errors`);
      let first = i - 1;
      while (first > 0 && !lines[first].includes('/**')) first--;
      known.set(`${file.slice('core/src/'.length, -3)}:${name}`, {
        at: `${file}:${i + 1}`,
        name,
        uses: 0,
        shown: lines.slice(first, i).some((l) => l.includes('@example')),
      });
    });
  }
  for (const [file, content] of text) {
    if (/\.(test|spec)\.ts$/.test(file)) continue;
    for (const [, names, from] of content.matchAll(/import (?!type )\{([^}]*)\} from '([^']+)'/g)) {
      const module = from.startsWith('@rammer/core/') ? from.slice('@rammer/core/'.length) : join(dirname(file), from).replace(/^core\/src\//, '');
      for (const name of names.split(',')) {
        const of = known.get(`${module}:${name.trim().split(' as ')[0]}`);
        if (of) of.uses++;
      }
    }
  }
  const most = [...known.values()].sort((a, b) => b.uses - a.uses).slice(0, SHOWN);
  return [...out, ...most.filter((f) => !f.shown).map((f) => `${f.at}: ${f.name} is imported ${f.uses} times and shows no @example`)];
}
