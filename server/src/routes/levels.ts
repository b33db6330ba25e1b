import { Router, type Request, type Response } from 'express';
import { z } from 'zod';
import { bodyFigures } from '@rammer/core/body/bodies';
import { newLevel } from '@rammer/core/level/level';
import { SHIPPED_LIGHTING } from '@rammer/core/level/lighting';
import { newGround } from '@rammer/core/surface/surfaces';
import { knownEdits, readLog } from '../db/editLog';
import { dropLease, takeLease } from '../db/lease';
import { createLevel, deleteLevel, levelText, levelVersion, listLevels } from '../db/levelStore';
import type { Database } from '../db/open';
import { client, MAX_EDITS } from '../jobs/desk';
import type { Jobs } from '../jobs/jobs';
import { readBody, readJson, requireJson, untilLeft } from '../body';
import { Problem } from '../problem';

export const MAX_PACKAGE = 256 << 20;
/** How many small plans are kept. */
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
  tilesX: tiles,
  tilesZ: tiles,
  spacing: z.union([z.literal(0.25), z.literal(0.5), z.literal(1), z.literal(2)]),
  west: z.number().finite().min(-8192).max(8192).default(0),
  north: z.number().finite().min(-8192).max(8192).default(0),
});

export const leaseSchema = z.object({ client, take: z.boolean().default(false), release: z.boolean().default(false) });
/** Which edits are asked after: those whose answers may be lost. */
export const knownSchema = z.object({ ids: z.array(z.uuid()).min(1).max(2000) });

const uuid = z.uuid();
const levelId = (req: Request): string => {
  const parsed = uuid.safeParse(req.params.id);
  if (!parsed.success) throw missing();
  return parsed.data;
};
const missing = () => new Problem(404, 'level-missing', 'there is no such level; it may have been deleted');

/** A small picture of a level, or why there is none, as of a version. */
interface Plan {
  version: number;
  png?: Buffer;
  problem?: Problem;
}

export function levelRoutes(db: Database, jobs: Jobs): Router {
  const router = Router();
  /** small plans by level, the last few that were asked for, and those that are being made */
  const plans = new Map<string, Plan>();
  const making = new Map<string, Promise<Plan>>();

  router.get('/', async (_req, res) => {
    res.json(await listLevels(db));
  });

  router.post('/', async (req, res) => {
    const wanted = await readJson(req, newLevelSchema);
    res.status(201).json({ id: await createLevel(db, newLevel(wanted, [...newGround(), ...SHIPPED_LIGHTING])) });
  });

  router.post('/package', async (req, res) => {
    const { result } = await jobs.run({ kind: 'open', file: await readBody(req, MAX_PACKAGE, 'package') }, untilLeft(res));
    res.status(201).json(result);
  });

  router.get('/:id', async (req, res) => {
    sendText(res, await levelText(db, levelId(req), { objects: true, tiles: req.query.tiles === '1' }));
  });

  router.delete('/:id', async (req, res) => {
    if (!(await deleteLevel(db, levelId(req)))) throw missing();
    res.status(204).end();
  });

  router.get('/:id/tiles', async (req, res) => {
    sendText(res, await levelText(db, levelId(req), { objects: false, tiles: true }));
  });

  router.get('/:id/version', async (req, res) => {
    const version = await levelVersion(db, levelId(req));
    if (version === undefined) throw missing();
    res.json({ version });
  });

  router.get('/:id/package', async (req, res) => {
    const level = await existing(req);
    const { result, output } = await jobs.run({ kind: 'pack', level }, untilLeft(res));
    res
      .type('application/zip')
      .set('Content-Disposition', `attachment; filename="${(result as { file: string }).file}"`)
      .send(Buffer.from(output!));
  });

  router.post('/:id/reshape', async (req, res) => {
    const input = await readJson(req, reshapeSchema);
    const { result } = await jobs.run({ kind: 'reshape', level: await existing(req), input }, untilLeft(res));
    res.status(201).json(result);
  });

  router.get('/:id/plan.png', async (req, res) => {
    const id = levelId(req);
    const version = await levelVersion(db, id);
    if (version === undefined) throw missing();
    let plan = plans.get(id);
    if (plan?.version !== version) plan = await planOf(id, version);
    if (plan.problem) throw plan.problem;
    res.type('png').set('Cache-Control', 'no-cache').set('ETag', `"${plan.version}"`).send(plan.png);
  });

  /** Makes a plan once however many ask for it; one that cannot be made is not tried again for the same version. */
  const planOf = (id: string, version: number): Promise<Plan> => {
    const key = `${id}/${version}`;
    let made = making.get(key);
    if (!made) {
      made = jobs
        .run({ kind: 'plan', level: id, version })
        .then(
          ({ result, output }): Plan => ({ version: (result as { version: number }).version, png: Buffer.from(output!) }),
          (error: unknown): Plan => {
            if (error instanceof Problem && error.status === 422) return { version, problem: error };
            throw error;
          },
        )
        .then((plan) => {
          plans.set(id, plan);
          for (const old of plans.keys()) if (plans.size > PLANS_KEPT) plans.delete(old);
          return plan;
        })
        .finally(() => {
          making.delete(key);
        });
      making.set(key, made);
    }
    return made;
  };

  router.get('/:id/edits', async (req, res) => {
    const after = z.coerce
      .number()
      .int()
      .min(0)
      .max(2_147_483_647)
      .catch(0)
      .parse(req.query.after ?? 0);
    const page = await readLog(db, levelId(req), after);
    if (!page) throw missing();
    res.json(page);
  });

  router.post('/:id/edits/known', async (req, res) => {
    const { ids } = await readJson(req, knownSchema);
    res.json({ known: Object.fromEntries(await knownEdits(db, levelId(req), ids)) });
  });

  router.post('/:id/edits', async (req, res) => {
    requireJson(req);
    const answer = await jobs.edits({ levelId: levelId(req), body: await readBody(req, MAX_EDITS, 'body') });
    if ('problem' in answer) {
      const { status, code, message, extra } = answer.problem;
      throw new Problem(status, code, message, extra);
    }
    res.json(answer.body);
  });

  router.post('/:id/lease', async (req, res) => {
    const { client: who, take, release } = await readJson(req, leaseSchema);
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
    const id = levelId(req);
    const version = await levelVersion(db, id);
    if (version === undefined) throw missing();
    res.status(202).json(await jobs.start({ kind: 'check', level: id, version }));
  });

  /** The id of a level that is there. */
  const existing = async (req: Request): Promise<string> => {
    const id = levelId(req);
    if ((await levelVersion(db, id)) === undefined) throw missing();
    return id;
  };

  return router;
}

/** An answer that is JSON text already. */
function sendText(res: Response, text: string[] | undefined): void {
  if (!text) throw missing();
  res.type('json');
  for (const part of text) res.write(part);
  res.end();
}
