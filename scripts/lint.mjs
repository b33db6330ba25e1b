import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { nodeBin, root } from './ensure.mjs';

/** `npm run lint`: rules, one format, and no line longer than can be read. `npm run lint -- --fix` writes the format. */
const LONGEST = 160;
const fix = process.argv.includes('--fix');

const run = (program, args) => spawnSync(program, args, { cwd: root, stdio: 'inherit' }).status === 0;
const rules = run(nodeBin('oxlint'), ['--config', '.oxlintrc.json', '.']);
const format = run(nodeBin('prettier'), ['--cache', '--log-level', 'warn', fix ? '--write' : '--check', '**/*.{ts,tsx,mjs}']);

const files = spawnSync('git', ['ls-files', '*.ts', '*.tsx', '*.mjs'], { cwd: root, encoding: 'utf8' }).stdout.split('\n').filter(Boolean);
let long = 0;
for (const file of files) {
  readFileSync(`${root}/${file}`, 'utf8')
    .split('\n')
    .forEach((line, i) => {
      if (line.length <= LONGEST) return;
      long++;
      console.error(`${file}:${i + 1}: ${line.length} characters, ${LONGEST} are the most`);
    });
}
process.exit(rules && format && long === 0 ? 0 : 1);
