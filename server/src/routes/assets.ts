import { Router } from 'express';
import { z } from 'zod';
import { isSound } from '@rammer/core/level/text';
import { ASSET_LIMITS } from '@rammer/core/io/assetGlb';
import { deleteAsset, listAssets, readAssetFile } from '../db/assetStore';
import type { Database } from '../db/open';
import type { Jobs } from '../jobs/jobs';
import { readBody, untilLeft } from '../body';
import { Problem } from '../problem';

const hash = z.string().regex(/^[0-9a-f]{64}$/);

/** The meshes that levels can use: list, fetch by content hash, add a GLB, delete what no level uses. */
export function assetRoutes(db: Database, jobs: Jobs): Router {
  const router = Router();
  router.get('/', async (_req, res) => {
    res.json(await listAssets(db));
  });

  router.get('/:hash', async (req, res) => {
    const wanted = hash.safeParse(req.params.hash);
    const file = wanted.success ? await readAssetFile(db, wanted.data) : undefined;
    if (!file) throw new Problem(404, 'asset-missing', 'there is no such asset');
    // The name is the content: it never changes.
    res.type('model/gltf-binary').set('Cache-Control', 'private, max-age=31536000, immutable').send(Buffer.from(file));
  });

  router.delete('/:hash', async (req, res) => {
    const wanted = hash.safeParse(req.params.hash);
    const result = wanted.success ? await deleteAsset(db, wanted.data) : { done: 'missing' as const };
    if (result.done === 'missing') throw new Problem(404, 'asset-missing', 'there is no such asset');
    if (result.done === 'used')
      throw new Problem(
        409,
        'asset-used',
        `${result.by.length === 1 ? 'a level uses' : `${result.by.length} levels use`} ` +
          `this asset: take it out of ${result.by.length === 1 ? 'it' : 'them'} first`,
      );
    res.status(204).end();
  });

  router.post('/', async (req, res) => {
    const name = z.string().trim().min(1).max(120).refine(isSound).catch('asset').parse(req.query.name);
    const { result } = await jobs.run(
      { kind: 'asset', input: { name, ...(req.query.source === '1' ? { source: true } : {}) }, file: await readBody(req, ASSET_LIMITS.bytes, 'asset') },
      untilLeft(res),
    );
    res.status(201).json(result);
  });
  return router;
}
