import { readFileSync, statSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { check } from './check';
import { info } from './info';
import type { Command } from './command';
import { cost } from './cost';
import { exportLevel } from './export';
import { walk } from './walk';
import { loadSolidKernel } from '@rammer/core/block/loadKernel';
import { needsKernel } from '@rammer/core/scene/parts';
import { readAssets } from '@rammer/core/io/readAssets';
import { TooMuch } from '@rammer/core/num/tooMuch';
import { readPackage } from '@rammer/core/io/package';

/**
 * `rammer COMMAND FILE [--json]` on a level package, with no server and no database.
 * Exit 0 well, 1 over budget or a blocking snag, 2 bad input, 3 out of time.
 */
const COMMANDS: Record<string, Command> = { info, check, cost, walk, export: exportLevel };

const USAGE = `usage: npm run rammer -- COMMAND FILE [--json] [--timeout SECONDS]

  info   what the package holds
  check  size, bodies, reach, cost and snags; exit 1 over budget or on a blocking snag
  cost   estimated frame of each viewpoint by course [--device ID]; exit 1 over budget
  walk   the way from entry to objective, and where threats can go [--body NAME]; exit 1 where it ends
  export GLB (plain and instanced), heights, weights and OBJ into a folder: --out FOLDER

  progress is told on stderr; after --timeout SECONDS the command ends with exit 3`;

const MAX_FILE = 256 << 20;

/** What a run of the command leaves: its two streams and the exit code. */
export interface Ran {
  stdout: string;
  stderr: string;
  status: 0 | 1 | 2;
}

/** Bad input, with a stable code. */
class Bad extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/** Runs the command with its arguments; files are read and written, nothing else of the process is touched. */
export async function run(args: string[], tell: (line: string) => void = () => {}): Promise<Ran> {
  let json = args.includes('--json');
  try {
    const { values, positionals } = parseArgs({
      args,
      allowPositionals: true,
      options: {
        json: { type: 'boolean', default: false },
        help: { type: 'boolean', short: 'h', default: false },
        out: { type: 'string' },
        device: { type: 'string' },
        body: { type: 'string' },
        timeout: { type: 'string' },
      },
    });
    json = values.json ?? false;
    if (values.help) return { stdout: `${USAGE}\n`, stderr: '', status: 0 };
    const [name, file] = positionals;
    const command = name && Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
    if (!command) throw new Bad('usage', `${name ? `there is no command ${name}` : 'no command given'}\n${USAGE}`);
    if (values.timeout !== undefined && secondsOf(args) === undefined) throw new Bad('usage', `--timeout takes seconds, more than 0, not "${values.timeout}"`);
    if (!file) throw new Bad('usage', `no file given\n${USAGE}`);
    const opened = readPackage(read(file));
    if (!opened.ok) throw new Bad(opened.code, `${file}: ${opened.message}`);
    const meshes = await readAssets(opened.value);
    if (!meshes.ok) throw new Bad(meshes.code, `${file}: ${meshes.message}`);
    const { report, text, exit } = await command(opened.value, {
      assets: meshes.value,
      kernel: needsKernel(opened.value) ? await loadSolidKernel() : undefined,
      out: values.out,
      device: values.device,
      body: values.body,
      progress: progressOf(name, tell),
    });
    return { stdout: `${json ? JSON.stringify(report) : text}\n`, stderr: '', status: exit };
  } catch (error) {
    const { message } = error as Error;
    return {
      stdout: json ? `${JSON.stringify({ error: { code: error instanceof Bad || error instanceof TooMuch ? error.code : 'usage', message } })}\n` : '',
      stderr: `rammer: ${message}\n`,
      status: 2,
    };
  }
}

/** Seconds of `--timeout`; `undefined` where there is none, or it makes no sense. */
export function secondsOf(args: readonly string[]): number | undefined {
  const at = args.findIndex((a) => a === '--timeout' || a.startsWith('--timeout='));
  if (at < 0) return undefined;
  const seconds = Number(args[at].includes('=') ? args[at].slice('--timeout='.length) : args[at + 1]);
  return seconds > 0 && seconds < 1e6 ? seconds : undefined;
}

/** Tells how far a command is, once a second at most; what is done sooner says nothing. */
function progressOf(name: string, tell: (line: string) => void): (share: number, what?: string) => void {
  let told = Date.now();
  return (share, what = name) => {
    if (Date.now() - told < 1000) return;
    told = Date.now();
    tell(`${what} ${Math.floor(share * 100)} %`);
  };
}

function read(file: string): Uint8Array {
  let size: number;
  try {
    size = statSync(file).size;
    if (size <= MAX_FILE) return new Uint8Array(readFileSync(file));
  } catch (error) {
    throw new Bad('file-unreadable', `${file} cannot be read: ${(error as NodeJS.ErrnoException).code ?? 'unknown'}`);
  }
  throw new Bad('package-too-large', `${file} is larger than ${MAX_FILE >> 20} MB, the most a package may have`);
}
