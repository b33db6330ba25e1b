import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { chromium, ensureBuild, ensureChromium, ensureModules, ensurePostgres, root } from './ensure.mjs';

/** `npm run shots`: the pictures in docs/screenshots, made anew from the demo; with names, those alone. */
ensureModules();
ensurePostgres();
ensureChromium();
ensureBuild();
const { status } = spawnSync(process.execPath, ['--import', 'tsx', join(root, 'e2e/src/shots.ts'), ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, RAMMER_CHROMIUM: chromium() },
});
process.exit(status ?? 1);
