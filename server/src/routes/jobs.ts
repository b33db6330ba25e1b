import { Router } from 'express';
import type { Jobs } from '../jobs/jobs';
import { Problem } from '../problem';

export function jobRoutes(jobs: Jobs): Router {
  const router = Router();
  const found = (id: string) => {
    const job = jobs.get(id);
    if (!job) throw new Problem(404, 'job-missing', 'there is no such job; the server may have been started anew');
    return job;
  };
  router.get('/:id', (req, res) => { res.json(found(req.params.id)); });
  router.delete('/:id', (req, res) => {
    found(req.params.id);
    res.json(jobs.cancel(req.params.id));
  });
  return router;
}
