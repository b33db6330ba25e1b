import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { root, nodeBin, workspaces } from './ensure.mjs';

/** Type checks every workspace; core twice, so that its sources see no DOM and no Node. */
const projects = [...workspaces().map((w) => `${w}/tsconfig.json`), 'core/tsconfig.test.json'];
let bad = 0;
for (const project of projects) {
  if (spawnSync(nodeBin('tsc'), ['-p', join(root, project)], { cwd: root, stdio: 'inherit' }).status !== 0) bad++;
}
console.log(bad === 0 ? `types: ${projects.length} projects are well` : `types: ${bad} of ${projects.length} projects have faults`);
process.exit(bad === 0 ? 0 : 1);
