import type { NextFunction, Request, Response } from 'express';

/** An error at the door: RFC 9457 problem+json with a stable code. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly extra: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

const CONNECTION_CODES = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', '57P01', '57P02', '57P03', '08006', '08001', '08003']);

/** Whether an error means that the database is away, and not that the request was bad. */
export function databaseIsAway(error: unknown): boolean {
  for (let e: unknown = error; e instanceof Error; e = e.cause) {
    const code = (e as { code?: unknown }).code;
    if (typeof code === 'string' && CONNECTION_CODES.has(code)) return true;
    if (/Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/.test(e.message)) return true;
  }
  return false;
}

/** Whether an error means that the database has no room left on its disk. */
export function databaseIsFull(error: unknown): boolean {
  for (let e: unknown = error; e instanceof Error; e = e.cause) if (['53100', 'ENOSPC'].includes((e as { code?: string }).code ?? '')) return true;
  return false;
}

export const diskFull = (): Problem =>
  new Problem(503, 'disk-full', 'the disk of the server is full; nothing was changed. Free some space there: Rammer tries again by itself.');

export function sendProblem(res: Response, problem: Problem): void {
  res
    .status(problem.status)
    .type('application/problem+json')
    .json({ type: 'about:blank', title: problem.message, status: problem.status, code: problem.code, ...problem.extra });
}

export function problemHandler(log: (error: unknown) => void, onDatabaseAway: () => void) {
  return (error: unknown, _req: Request, res: Response, next: NextFunction): void => {
    if (res.headersSent) return next(error);
    if (error instanceof Problem) return sendProblem(res, error);
    if (databaseIsAway(error)) {
      onDatabaseAway();
      return sendProblem(res, new Problem(503, 'database-away', 'the database does not answer; nothing was changed. Rammer tries again by itself.'));
    }
    if (databaseIsFull(error)) return sendProblem(res, diskFull());
    const type = (error as { type?: string }).type;
    if (type === 'entity.too.large') return sendProblem(res, new Problem(413, 'body-too-large', 'the request is larger than this door takes'));
    if (type === 'entity.parse.failed') return sendProblem(res, new Problem(400, 'body-not-json', 'the request is not JSON'));
    if (type?.startsWith('entity.') || type?.startsWith('request.') || type?.startsWith('charset.') || type?.startsWith('encoding.'))
      return sendProblem(res, new Problem(400, 'body-invalid', 'the request cannot be read'));
    // Errors of express and of the files it sends say what they are.
    const { status } = error as { status?: unknown };
    if (status === 404) return sendProblem(res, new Problem(404, 'not-found', 'there is nothing at this address'));
    if (typeof status === 'number' && status >= 400 && status < 500)
      return sendProblem(res, new Problem(status, 'request-invalid', 'the request cannot be read: its address or a header is malformed'));
    if ((error as { code?: string }).code === '22P02') return sendProblem(res, new Problem(404, 'level-missing', 'there is no such level'));
    log(error);
    sendProblem(res, new Problem(500, 'internal', 'Rammer failed at this. Nothing was changed; the server log says more.'));
  };
}
