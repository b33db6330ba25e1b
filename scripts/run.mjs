import { spawn } from 'node:child_process';
import { ensureModules, ensurePostgres, root } from './ensure.mjs';

/** Runs one of the server's own programs: `node scripts/run.mjs FILE ...`, with whatever a fresh machine lacks put in first. */
ensureModules();
ensurePostgres();
const child = spawn(process.execPath, ['--import', 'tsx', ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    if (signal === 'SIGTERM') child.kill(signal);
  });
child.on('exit', (code, signal) => {
  process.exitCode = code ?? (signal ? 1 : 0);
});
