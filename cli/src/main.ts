import { readFileSync, statSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { check } from './check';
import { info } from './info';
import type { Command } from './command';
import { cost } from './cost';
import { exportLevel } from './export';
import { walk } from './walk';
import { loadSolidKernel } from '@rammer/core/block/loadKernel';
import { needsKernel } from '@rammer/core/cost/parts';
import { readAssets } from '@rammer/core/io/readAssets';
import { readPackage } from '@rammer/core/io/package';

/**
 * `rammer COMMAND FILE [--json]` on a level package, with no server and no database.
 * Exit 0 well, 1 over budget or a blocking snag, 2 bad input.
 */
const COMMANDS: Record<string, Command> = { info, check, cost, walk, export: exportLevel };

const USAGE = `usage: npm run rammer -- COMMAND FILE [--json]

  info   what the package holds
  check  size, bodies, reach, cost and snags; exit 1 over budget or on a blocking snag
  cost   estimated frame of each viewpoint by course [--device ID]; exit 1 over budget
  walk   the way from entry to objective, and where threats can go [--body NAME]; exit 1 where it ends
  export GLB (plain and instanced), heights, weights and OBJ into a folder: --out FOLDER`;

const MAX_FILE = 64 << 20;

function bad(code: string, message: string, json: boolean): never {
  if (json) console.log(JSON.stringify({ error: { code, message } }));
  console.error(`rammer: ${message}`);
  process.exit(2);
}

let json = process.argv.includes('--json');
try {
  const { values, positionals } = parseArgs({ allowPositionals: true, options: { json: { type: 'boolean', default: false }, help: { type: 'boolean', short: 'h', default: false }, out: { type: 'string' }, device: { type: 'string' }, body: { type: 'string' } } });
  json = values.json ?? false;
  if (values.help) {
    console.log(USAGE);
    process.exit(0);
  }
  const [name, file] = positionals;
  const command = name && Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command) bad('usage', `${name ? `there is no command ${name}` : 'no command given'}\n${USAGE}`, json);
  if (!file) bad('usage', `no file given\n${USAGE}`, json);
  let bytes: Uint8Array;
  try {
    if (statSync(file).size > MAX_FILE) bad('package-too-large', `${file} is larger than ${MAX_FILE >> 20} MB, the most a package may have`, json);
    bytes = new Uint8Array(readFileSync(file));
  } catch (error) {
    bad('file-unreadable', `${file} cannot be read: ${(error as NodeJS.ErrnoException).code ?? 'unknown'}`, json);
  }
  const opened = readPackage(bytes);
  if (!opened.ok) bad(opened.code, `${file}: ${opened.message}`, json);
  const meshes = await readAssets(opened.value);
  if (!meshes.ok) bad(meshes.code, `${file}: ${meshes.message}`, json);
  const { report, text, exit } = await command(opened.value, { assets: meshes.value, kernel: needsKernel(opened.value) ? await loadSolidKernel() : undefined, out: values.out, device: values.device, body: values.body });
  console.log(json ? JSON.stringify(report) : text);
  process.exitCode = exit;
} catch (error) {
  bad('usage', (error as Error).message, json);
}
