import { writeFileSync } from 'node:fs';
import { packageJsonSchema } from '../core/src/io/jsonSchema';

/** `npm run schema`: writes docs/level.schema.json from the schemas in core; a test keeps the two equal. */
writeFileSync(new URL('../docs/level.schema.json', import.meta.url), `${JSON.stringify(packageJsonSchema(), null, 1)}\n`);
