import { spawn } from 'node:child_process';
import { run, secondsOf } from './run';

const args = process.argv.slice(2);
const seconds = process.env.RAMMER_TIMED ? undefined : secondsOf(args);

if (seconds === undefined) {
  // Progress is told while the work runs; the answer at its end, whole.
  const { stdout, stderr, status } = await run(args, (line) => {
    process.stderr.write(`${line}\n`);
  });
  process.stdout.write(stdout);
  process.stderr.write(stderr);
  process.exitCode = status;
} else {
  // Work that never gives way can only be ended from outside: it runs in a process of its own.
  const child = spawn(process.execPath, [...process.execArgv, process.argv[1], ...args], { stdio: 'inherit', env: { ...process.env, RAMMER_TIMED: '1' } });
  let late = false;
  const timer = setTimeout(() => {
    late = true;
    child.kill('SIGKILL');
  }, seconds * 1000);
  child.on('exit', (code) => {
    clearTimeout(timer);
    process.exitCode = late ? 3 : (code ?? 2);
    if (!late) return;
    const message = `out of time: not done after ${seconds} s`;
    process.stderr.write(`rammer: ${message}\n`);
    if (args.includes('--json')) process.stdout.write(`${JSON.stringify({ error: { code: 'out-of-time', message } })}\n`);
  });
}
