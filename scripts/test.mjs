import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, ensureBuild, ensureChromium, ensureModules, ensurePostgres, nodeBin, root } from './ensure.mjs';

/**
 * `npm test`: lint, types, unit and API tests, browser tests. The last line is `N passed, N failed`.
 * `npm test -- unit [NAME ...]`, `-- api [NAME ...]` and `-- browser [NAME ...]` run a part, or its files of some names.
 */
const PARTS = ['lint', 'types', 'unit', 'api', 'browser'];
const [part, ...names] = process.argv.slice(2);
if (part !== undefined && !PARTS.includes(part)) {
  console.error(`there is no part ${part}: ${PARTS.join(', ')}`);
  process.exit(2);
}
const wanted = (name) => part === undefined || part === name;
ensureModules();
ensurePostgres();
if (wanted('browser')) ensureChromium();

const scratch = mkdtempSync(join(tmpdir(), 'rammer-report-'));
const env = { ...process.env, RAMMER_CHROMIUM: chromium() };
let passed = 0;
let failed = 0;
const run = (program, args, options = {}) => spawnSync(program, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], env, ...options }).status === 0;
const step = (name) => console.log(`\n== ${name}`);
const count = (ok) => {
  if (ok) passed++;
  else failed++;
};

if (wanted('lint')) {
  step('lint');
  count(run(process.execPath, ['scripts/lint.mjs']));
}
if (wanted('types')) {
  step('types');
  count(run(process.execPath, ['scripts/types.mjs']));
}
if (wanted('unit') || wanted('api')) {
  // The projects of vitest.config.ts; the API is the server's.
  step(part === undefined ? 'unit and API' : part);
  const projects = part === undefined ? [] : part === 'api' ? ['--project', 'server'] : ['--project', '!server'];
  const report = join(scratch, 'unit.json');
  const well = run(nodeBin('vitest'), ['run', ...projects, '--reporter=default', '--reporter=json', `--outputFile.json=${report}`, ...names]);
  tally(well, report, (r) => [r.numPassedTests, r.numFailedTests]);
}
if (wanted('browser')) {
  step('browser');
  ensureBuild();
  const report = join(scratch, 'browser.json');
  const well = run(nodeBin('playwright'), ['test', ...names], { cwd: join(root, 'e2e'), env: { ...env, RAMMER_E2E_JSON: report } });
  tally(well, report, (r) => [r.stats.expected + r.stats.flaky, r.stats.unexpected]);
}

rmSync(scratch, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

/** Adds what a runner counted; a runner that failed without a failed test counts as one failure. */
function tally(well, file, read) {
  const [good, bad] = existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : [0, 0];
  passed += good;
  failed += well ? bad : Math.max(1, bad);
  if (good + bad === 0) failed++;
}
