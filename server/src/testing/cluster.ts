import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { openCluster } from '../db/cluster';

declare module 'vitest' {
  export interface ProvidedContext {
    clusterUrl: string;
  }
}

/** A PostgreSQL cluster of the tests' own, on loopback, made new and taken away afterwards. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  if (process.env.DATABASE_URL) {
    project.provide('clusterUrl', process.env.DATABASE_URL);
    return async () => {};
  }
  const data = mkdtempSync(join(tmpdir(), 'rammer-test-'));
  const cluster = await openCluster(data);
  project.provide('clusterUrl', cluster.url);
  return async () => {
    await cluster.stop();
    rmSync(cluster.home, { recursive: true, force: true });
    rmSync(data, { recursive: true, force: true });
  };
}
