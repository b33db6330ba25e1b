import { StartFault } from './fault';
import { databaseIsFull } from './problem';
import { start } from './start';

try {
  await start();
} catch (error) {
  console.error(`rammer: ${said(error)}`);
  process.exit(1);
}

function said(error: unknown): string {
  if (error instanceof StartFault) return error.message;
  return databaseIsFull(error) ? 'the disk of the database is full: free some space, then start again.' : `it could not start: ${cause(error)}`;
}

/** The innermost reason in one line: a failed query is a page long. */
function cause(error: unknown): string {
  let e = error as Error;
  while (e.cause instanceof Error) e = e.cause;
  return e.message.split('\n')[0].slice(0, 300);
}
