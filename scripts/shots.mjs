import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { chromium, ensureBuild, ensureChromium, ensureModules, ensurePostgres, root } from './ensure.mjs';

/** `npm run shots`: the pictures in docs/screenshots, made anew from the demo. */
ensureModules();
ensurePostgres();
ensureChromium();
ensureBuild();
const { status } = spawnSync(process.execPath, ['--import', 'tsx', join(root, 'e2e/src/shots.ts')], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, RAMMER_CHROMIUM: chromium() },
});
process.exit(status ?? 1);
