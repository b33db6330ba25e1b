import { z } from 'zod';
import { levelObject } from '../level/objects';
import { packageSchema } from './package';

/** `level.json` of a package as a JSON Schema (2020-12), made from the schemas that guard it. */
export function packageJsonSchema(): unknown {
  const document = packageSchema.extend({ objects: z.array(levelObject).min(1).max(100_000) });
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'level.json of a Rammer level package',
    ...z.toJSONSchema(document, { io: 'input' }),
  };
}
