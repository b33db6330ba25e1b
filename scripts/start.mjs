import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { ensureBuild, ensureModules, ensurePostgres, root } from './ensure.mjs';

/** `npm start`: everything a fresh machine lacks, then the server. `--dev` serves the sources with Vite instead of the build. */
const dev = process.argv.includes('--dev');
ensureModules();
ensurePostgres();
if (!dev) ensureBuild();

const port = Number(process.env.RAMMER_PORT ?? 4600);
const children = [];
const start = (program, args, options) => {
  const child = spawn(program, args, { stdio: 'inherit', ...options });
  children.push(child);
  child.on('exit', (code, signal) => {
    for (const c of children) if (c !== child) c.kill('SIGTERM');
    process.exitCode = code ?? (signal ? 1 : 0);
  });
};
// A terminal sends Ctrl+C to the whole group; a `kill` reaches only this process and is passed on.
process.on('SIGINT', () => {});
process.on('SIGTERM', () => {
  for (const c of children) c.kill('SIGTERM');
});

const env = { ...process.env, ...(dev ? { RAMMER_PORT: String(port + 1), RAMMER_DEV_PORT: String(port) } : {}) };
start(process.execPath, ['--import', 'tsx', join(root, 'server/src/main.ts')], { cwd: root, env });
if (dev)
  start(process.execPath, [join(root, 'node_modules/vite/bin/vite.js')], {
    cwd: join(root, 'web'),
    env: { ...process.env, RAMMER_PORT: String(port), RAMMER_API_PORT: String(port + 1) },
  });
