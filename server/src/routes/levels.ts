import express, { Router, type Request } from 'express';
import { z } from 'zod';
import { bodyFigures } from '@rammer/core/body/bodies';
import { readAssets } from '@rammer/core/io/readAssets';
import { readPackage, writePackage } from '@rammer/core/io/package';
import { parseEdit, type Edit } from '@rammer/core/level/edits/index';
import { newLevel, presentBlocks, settingsOf } from '@rammer/core/level/level';
import { blockGrid } from '@rammer/core/block/grid';
import { composeTerrain } from '@rammer/core/earth/compose';
import { pictureToPng } from '@rammer/core/io/rasterPng';
import { SHIPPED_MOODS } from '@rammer/core/mood/moods';
import { outside, reshape } from '@rammer/core/level/reshape';
import { groundDefaults } from '@rammer/core/surface/surfaces';
import { planPicture } from '@rammer/core/surface/planPicture';
import { applyEdits, createLevel, deleteLevel, dropLease, levelVersion, listLevels, readEdits, readLevel, readTiles, takeLease } from '../db/levelStore';
import type { Database } from '../db/open';
import type { Jobs } from '../jobs/jobs';
import { readBody } from '../body';
import { Problem } from '../problem';

export const MAX_PACKAGE = 64 << 20;
const MAX_EDITS = 32 << 20;
/** Longer side of a level's small plan, and how many are kept. */
const PLAN_PIXELS = 240;
const PLANS_KEPT = 64;

const tiles = z.number().int().min(2, 'at least 2 tiles a side').max(64, 'at most 64 tiles a side');
export const newLevelSchema = z.object({
  name: z.string().trim().min(1, 'a level needs a name').max(120),
  tilesX: tiles,
  tilesZ: tiles,
  spacing: z.union([z.literal(0.25), z.literal(0.5), z.literal(1), z.literal(2)]),
  body: z.object({ name: z.string().trim().min(1).max(120), figures: bodyFigures }),
  seed: z.number().int().min(0).max(2_147_483_647),
});

/** Another size of a level, see core/level/reshape. */
export const reshapeSchema = z.object({
  name: z.string().trim().min(1).max(120),
  tilesX: tiles, tilesZ: tiles,
  spacing: z.union([z.literal(0.25), z.literal(0.5), z.literal(1), z.literal(2)]),
  west: z.number().finite().min(-8192).max(8192).default(0),
  north: z.number().finite().min(-8192).max(8192).default(0),
});

const client = z.string().regex(/^[A-Za-z0-9-]{8,64}$/, 'a client names itself with 8 to 64 letters, digits or -');
export const editsSchema = z.object({ client, base: z.number().int().min(0), force: z.boolean().default(false), edits: z.array(z.unknown()).min(1).max(500) });
export const leaseSchema = z.object({ client, take: z.boolean().default(false), release: z.boolean().default(false) });

const uuid = z.uuid();
const levelId = (req: Request): string => {
  const parsed = uuid.safeParse(req.params.id);
  if (!parsed.success) throw missing();
  return parsed.data;
};
const missing = () => new Problem(404, 'level-missing', 'there is no such level; it may have been deleted');

function parse<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0];
  throw new Problem(400, 'body-invalid', `${issue.path.join('.') || 'body'}: ${issue.message}`);
}

export function levelRoutes(db: Database, jobs: Jobs): Router {
  const router = Router();
  const json = express.json({ limit: '256kb' });
  /** small plans by level, the last few that were asked for */
  const plans = new Map<string, { version: number; png: Buffer }>();

  router.get('/', async (_req, res) => { res.json(await listLevels(db)); });

  router.post('/', json, async (req, res) => {
    const wanted = parse(newLevelSchema, req.body);
    res.status(201).json({ id: await createLevel(db, newLevel(wanted, [...groundDefaults(), ...SHIPPED_MOODS])) });
  });

  router.post('/package', async (req, res) => {
    const bytes = await readBody(req, MAX_PACKAGE, 'package');
    const opened = readPackage(bytes);
    if (!opened.ok) throw new Problem(422, opened.code, opened.message);
    const meshes = await readAssets(opened.value);
    if (!meshes.ok) throw new Problem(422, meshes.code, meshes.message);
    res.status(201).json({ id: await createLevel(db, opened.value) });
  });

  router.get('/:id', async (req, res) => {
    const level = await readLevel(db, levelId(req));
    if (!level) throw missing();
    res.json({ id: req.params.id, version: level.version, objects: [...level.objects.values()] });
  });

  router.delete('/:id', async (req, res) => {
    if (!(await deleteLevel(db, levelId(req)))) throw missing();
    res.status(204).end();
  });

  router.get('/:id/tiles', async (req, res) => {
    const found = await readTiles(db, levelId(req));
    if (!found) throw missing();
    res.json(found);
  });

  router.get('/:id/package', async (req, res) => {
    const level = await readLevel(db, levelId(req), true);
    if (!level) throw missing();
    const file = settingsOf(level).name.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'level';
    res.type('application/zip').set('Content-Disposition', `attachment; filename="${file}.rammer.zip"`).send(Buffer.from(writePackage(level)));
  });

  router.post('/:id/reshape', json, async (req, res) => {
    const { name, ...size } = parse(reshapeSchema, req.body);
    const level = await readLevel(db, levelId(req), true);
    if (!level) throw missing();
    const made = reshape(level, size);
    made.objects.set('settings', { ...settingsOf(made), name });
    res.status(201).json({ id: await createLevel(db, made), outside: outside(made) });
  });

  router.get('/:id/plan.png', async (req, res) => {
    const id = levelId(req);
    const version = await levelVersion(db, id);
    if (version === undefined) throw missing();
    let plan = plans.get(id);
    if (plan?.version !== version) {
      const level = await readLevel(db, id);
      if (!level) throw missing();
      plan = { version: level.version, png: Buffer.from(pictureToPng(planPicture(composeTerrain(level), blockGrid(presentBlocks(level).filter((b) => b.op !== 'void')), PLAN_PIXELS))) };
      plans.set(id, plan);
      for (const key of plans.keys()) if (plans.size > PLANS_KEPT) plans.delete(key);
    }
    res.type('png').set('Cache-Control', 'no-cache').set('ETag', `"${plan.version}"`).send(plan.png);
  });

  router.get('/:id/edits', async (req, res) => {
    const after = z.coerce.number().int().min(0).catch(0).parse(req.query.after ?? 0);
    res.json({ edits: await readEdits(db, levelId(req), after) });
  });

  router.post('/:id/edits', express.json({ limit: MAX_EDITS }), async (req, res) => {
    const body = parse(editsSchema, req.body);
    const list: Edit[] = [];
    for (const given of body.edits) {
      const parsed = parseEdit(given);
      if (!parsed.ok) throw new Problem(422, parsed.code, parsed.message);
      list.push(parsed.edit);
    }
    const outcome = await applyEdits(db, levelId(req), body.client, body.base, list, body.force);
    if (outcome.kind === 'missing') throw missing();
    if (outcome.kind === 'not-writer') throw new Problem(423, 'not-writer', 'another tab or machine is writing this level; take over to write here');
    if (outcome.kind === 'conflict') throw new Problem(409, 'conflict', 'the level was changed elsewhere in the same places', { version: outcome.version, conflicts: outcome.conflicts });
    res.json({ version: outcome.version, results: outcome.results, rebased: outcome.rebased });
  });

  router.post('/:id/lease', json, async (req, res) => {
    const { client: who, take, release } = parse(leaseSchema, req.body);
    if (release) {
      await dropLease(db, levelId(req), who);
      res.json({ held: false });
      return;
    }
    const lease = await takeLease(db, levelId(req), who, take);
    if (!lease) throw missing();
    res.json(lease);
  });

  router.post('/:id/check', async (req, res) => {
    const level = await readLevel(db, levelId(req), true);
    if (!level) throw missing();
    res.status(202).json(jobs.startCheck(levelId(req), level));
  });

  return router;
}
