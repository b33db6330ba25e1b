import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, ensureBuild, ensureChromium, ensureModules, ensurePostgres, nodeBin, root } from './ensure.mjs';

/** `npm test`: lint, types, unit and API tests, browser tests. The last line is `N passed, N failed`. */
ensureModules();
ensurePostgres();
ensureChromium();

const scratch = mkdtempSync(join(tmpdir(), 'rammer-report-'));
const env = { ...process.env, RAMMER_CHROMIUM: chromium() };
let passed = 0;
let failed = 0;
const run = (program, args, options = {}) => spawnSync(program, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], env, ...options }).status === 0;
const step = (name) => console.log(`\n== ${name}`);
const count = (ok) => { if (ok) passed++; else failed++; };

step('lint');
count(run(nodeBin('oxlint'), ['--config', '.oxlintrc.json', '.']));

step('types');
count(run(process.execPath, ['scripts/types.mjs']));

step('unit and API');
const unit = join(scratch, 'unit.json');
const unitWell = run(nodeBin('vitest'), ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${unit}`]);
tally(unitWell, unit, (r) => [r.numPassedTests, r.numFailedTests]);

step('browser');
ensureBuild();
const browser = join(scratch, 'browser.json');
const browserWell = run(nodeBin('playwright'), ['test'], { cwd: join(root, 'e2e'), env: { ...env, RAMMER_E2E_JSON: browser } });
tally(browserWell, browser, (r) => [r.stats.expected + r.stats.flaky, r.stats.unexpected]);

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
