import { readFileSync, writeFileSync } from 'node:fs';
import { formatTables, withTables } from '../core/src/io/formatTables';
import { packageJsonSchema } from '../core/src/io/jsonSchema';

/** `npm run schema`: writes docs/level.schema.json and the tables of docs/format.md from the schemas in core; tests keep them equal. */
const schema = packageJsonSchema();
const page = new URL('../docs/format.md', import.meta.url);
writeFileSync(new URL('../docs/level.schema.json', import.meta.url), `${JSON.stringify(schema, null, 1)}\n`);
writeFileSync(page, withTables(readFileSync(page, 'utf8'), formatTables(schema)));
