import { Router } from 'express';
import { z } from 'zod';
import type { Jobs } from '../jobs/jobs';
import type { JobView } from '../jobs/jobRows';
import { Problem } from '../problem';

const uuid = z.uuid();

export function jobRoutes(jobs: Jobs): Router {
  const router = Router();
  const found = async (id: string, look: (id: string) => Promise<JobView | undefined>): Promise<JobView> => {
    const job = uuid.safeParse(id).success ? await look(id) : undefined;
    if (!job) throw new Problem(404, 'job-missing', 'there is no such job; what came of it is kept for an hour');
    return job;
  };
  router.get('/:id', async (req, res) => {
    res.json(await found(req.params.id, jobs.view));
  });
  router.delete('/:id', async (req, res) => {
    res.json(await found(req.params.id, jobs.cancel));
  });
  return router;
}
