import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Router } from 'express';
import { Problem } from '../problem';

const FOLDER = fileURLToPath(new URL('../../../docs/', import.meta.url));
const PAGES = ['guide', 'numbers', 'format', 'decisions'];

/** The pages the interface links to, as text: what a browser shows, not what it keeps as a file. */
export function docRoutes(): Router {
  const router = Router();
  router.get('/:page.md', (req, res) => {
    const file = `${req.params.page}.md`;
    if (!PAGES.includes(req.params.page) || !existsSync(`${FOLDER}${file}`)) throw new Problem(404, 'not-found', 'there is no such page');
    res.type('text/plain; charset=utf-8').sendFile(file, { root: FOLDER });
  });
  router.use(() => {
    throw new Problem(404, 'not-found', 'there is no such page');
  });
  return router;
}
