import { start } from './start';
import { StartFault } from './fault';

try {
  await start();
} catch (error) {
  console.error(`rammer: ${error instanceof StartFault ? error.message : `it could not start: ${(error as Error).message}`}`);
  process.exit(1);
}
