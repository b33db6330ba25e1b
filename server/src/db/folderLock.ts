import { spawn } from 'node:child_process';

/**
 * A lock on a file that goes with whoever holds it, however that one ends: a child holds it for as long as its
 * standard input is open, and that closes with this process. By `flock` of util-linux.
 *
 * @param how `-x` alone, `-s` together with others that say so
 * @param wait seconds, 0 to try once
 * @returns what gives it back, or `undefined` where others hold it
 */
export function lockFile(file: string, how: '-x' | '-s', wait: number): Promise<(() => Promise<void>) | undefined> {
  return new Promise((answer) => {
    const child = spawn('flock', [how, '-w', String(wait), file, 'sh', '-c', 'echo held; exec cat'], { stdio: ['pipe', 'pipe', 'ignore'], detached: true });
    const gone = new Promise<void>((done) => {
      child.once('exit', () => done());
    });
    child.stdin.on('error', () => {});
    child.once('error', () => answer(async () => {}));
    child.stdout.once('data', () => {
      child.stdout.destroy();
      child.unref();
      (child.stdin as unknown as { unref?(): void }).unref?.();
      answer(async () => {
        child.ref();
        child.stdin.end();
        await gone;
      });
    });
    void gone.then(() => answer(undefined));
  });
}
