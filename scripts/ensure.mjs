import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Whatever a fresh machine with only Node and apt still lacks is installed here, and said. */
export const root = fileURLToPath(new URL('..', import.meta.url));

const fail = (message) => {
  console.error(`rammer: ${message}`);
  process.exit(1);
};

const run = (program, args, options = {}) => spawnSync(program, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], ...options });

/** node_modules as the lock file has it. */
export function ensureModules() {
  const major = Number(process.versions.node.split('.')[0]);
  if (major < 20) fail(`Node 20 or newer is needed; this is ${process.versions.node}.`);
  const stamp = join(root, 'node_modules/.rammer-lock');
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('installing packages');
  if (run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']).status !== 0) fail('npm ci failed; see above.');
  writeFileSync(stamp, lock);
}

/** Debian packages, where `there()` says that they are missing. */
function ensureDebian(packages, there, before = []) {
  if (there()) return;
  const root = process.getuid?.() === 0;
  const sudo = root ? [] : ['sudo', '-n'];
  const call = (...args) => {
    const [program, ...rest] = [...sudo, ...args];
    return run(program, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }, stdio: ['ignore', 'ignore', 'inherit'] }).status === 0;
  };
  console.log(`installing ${packages.join(', ')} from Debian's packages`);
  for (const step of before) step(call);
  if (!(call('apt-get', 'update', '-qq') && call('apt-get', 'install', '-y', '-qq', '--no-install-recommends', ...packages)) || !there()) {
    fail(`${packages.join(', ')} could not be installed. Run \`apt-get install ${packages.join(' ')}\` as root, then try again.`);
  }
}

const postgresThere = () =>
  existsSync('/usr/lib/postgresql') && readdirSync('/usr/lib/postgresql').some((v) => Number(v) >= 13 && existsSync(`/usr/lib/postgresql/${v}/bin/initdb`));

/** The PostgreSQL server's programs; no cluster of Debian's own is made. */
export function ensurePostgres() {
  if (process.env.DATABASE_URL) return;
  ensureDebian(['postgresql'], postgresThere, [
    (call) => {
      call('mkdir', '-p', '/etc/postgresql-common');
      if (!existsSync('/etc/postgresql-common/createcluster.conf'))
        call('sh', '-c', 'echo create_main_cluster=false > /etc/postgresql-common/createcluster.conf');
    },
  ]);
}

export const chromium = () => process.env.RAMMER_CHROMIUM ?? ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find(existsSync);

export function ensureChromium() {
  ensureDebian(['chromium'], () => chromium() !== undefined);
}

function* files(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* files(path);
    else yield path;
  }
}

/** The built interface, made again when a source of it is newer than the build says. */
export function ensureBuild() {
  const hash = createHash('sha256');
  for (const folder of ['web/src', 'web/public', 'core/src']) {
    for (const file of files(join(root, folder))) if (!file.endsWith('.test.ts')) hash.update(file.slice(root.length)).update(readFileSync(file));
  }
  for (const file of ['web/index.html', 'web/vite.config.ts', 'package-lock.json']) hash.update(readFileSync(join(root, file)));
  const want = hash.digest('hex');
  const stamp = join(root, 'web/dist/.built');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === want) return;
  console.log('building the interface');
  const built = spawnSync(process.execPath, [join(root, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'error'], {
    cwd: join(root, 'web'),
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (built.status !== 0) fail('the interface could not be built; see above.');
  mkdirSync(join(root, 'web/dist'), { recursive: true });
  writeFileSync(stamp, want);
}

/** Folders of the workspaces that have TypeScript to check. */
export const workspaces = () =>
  ['core', 'server', 'web', 'cli', 'demo', 'e2e', 'bench'].filter((w) => existsSync(join(root, w, 'tsconfig.json')) && statSync(join(root, w)).isDirectory());

export const nodeBin = (name) => join(root, 'node_modules/.bin', name);
