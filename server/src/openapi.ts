import { extendZodWithOpenApi, OpenAPIRegistry, OpenApiGeneratorV31 } from '@asteasolutions/zod-to-openapi';
import { z } from 'zod';
import { editSchema } from '@rammer/core/level/edits/index';
import { editsSchema } from './jobs/desk';
import { knownSchema, leaseSchema, newLevelSchema, reshapeSchema } from './routes/levels';

extendZodWithOpenApi(z);

const EDITS = `Each edit has a uuid of its own: one that is known already is answered with its stored result, and one of another level is refused
(\`edit-elsewhere\`).
\`base\` is the version the client has seen; where somebody else wrote since, edits whose keys are disjoint are applied (\`rebased\`), others answer
409 \`conflict\`, unless \`force\`.

The objects of \`add\` are those of docs/level.schema.json. \`set\` changes fields of existing objects, \`null\` takes an optional one away. A \`stroke\` adds
integer deltas to raster tiles of 65 x 65 samples, key \`<object>/<channel>/<tx>,<tz>\`: row by row, each the difference to the sample before it (the
first to 0), zigzag coded (0, -1, 1, -2 are 0, 1, 2, 3), as four planes of bytes (the lowest of all samples first), deflated (RFC 1951), in base64;
\`back\` takes them
away instead. \`together\` holds others that are done and undone as one.

\`writes\` and \`reads\` say what an edit touches, in any order. Writes are stated whole: \`add\` and \`remove\` \`o:<id>\` for each object, \`set\`
\`o:<id>/<field>\` for each field, \`stroke\` \`t:<tile key>\` for
each tile, \`together\` those of its parts. \`version\` is 1. Reads may be an empty list and are filled in: \`add\` \`o:<id>/kind\` for each object
that one added needs (the asset of a piece, species or reference, the species of a plant, the assembly of a copy),
\`remove\` \`o:settings/player\`, \`set\` \`o:<id>/kind\` for each such field it sets, \`stroke\` \`o:settings/tilesX\`, \`o:settings/tilesZ\` and
\`o:<object>/kind\`. Keys that do not match answer 422 \`edit-keys\`.`;

/** The doors as an OpenAPI 3.1 document, made from the schemas that guard them. */
export function openApi(): unknown {
  const registry = new OpenAPIRegistry();
  const problem = z.object({ type: z.string(), title: z.string(), status: z.number(), code: z.string() });
  const problems = { '4XX': { description: 'what was wrong, with a stable code', content: { 'application/problem+json': { schema: problem } } } };
  const id = z.object({ id: z.uuid() });
  const path = (
    method: 'get' | 'post' | 'delete',
    url: string,
    summary: string,
    more: { description?: string; params?: z.ZodObject; body?: z.ZodType; bodyType?: string; status?: number; type?: string } = {},
  ) => {
    registry.registerPath({
      method,
      path: url,
      summary,
      ...(more.description ? { description: more.description } : {}),
      request: {
        ...(more.params ? { params: more.params } : {}),
        ...(more.body ? { body: { required: true, content: { [more.bodyType ?? 'application/json']: { schema: more.body } } } } : {}),
      },
      responses: {
        [more.status ?? 200]: {
          description: summary,
          ...(more.status === 204 ? {} : { content: { [more.type ?? 'application/json']: { schema: z.unknown() } } }),
        },
        ...problems,
      },
    });
  };
  path('get', '/api/health', 'Whether the server and its database answer');
  path('get', '/api/levels', 'The levels: size, last saved, whether the objective can be reached');
  path('post', '/api/levels', 'Makes a new level', { body: newLevelSchema, status: 201 });
  path('post', '/api/levels/package', 'Makes a level of a package', { body: z.string(), bodyType: 'application/zip', status: 201 });
  path('get', '/api/levels/{id}', 'The objects of a level, and with ?tiles=1 its raster tiles of the same version', { params: id });
  path('delete', '/api/levels/{id}', 'Deletes a level', { params: id, status: 204 });
  path('get', '/api/levels/{id}/tiles', 'The raster tiles of a level, packed, in base64', { params: id });
  path('get', '/api/levels/{id}/package', 'The level as a package', { params: id, type: 'application/zip' });
  path('post', '/api/levels/{id}/reshape', 'Makes a copy of a level at another size', { params: id, body: reshapeSchema, status: 201 });
  path('get', '/api/levels/{id}/plan.png', 'A small shaded plan of the level', { params: id, type: 'image/png' });
  path('get', '/api/levels/{id}/version', 'The version of a level: how many edits were applied to it', { params: id });
  path(
    'get',
    '/api/levels/{id}/edits',
    'The edit log after a version, a page at a time: ?after= takes the `next` of the page before; bodies up to version `folded` are not kept',
    { params: id },
  );
  path('post', '/api/levels/{id}/edits/known', 'Of some edits, those the level has, and the version each made', { params: id, body: knownSchema });
  path('post', '/api/levels/{id}/edits', 'Applies edits in order', {
    params: id,
    body: editsSchema.extend({ edits: z.array(editSchema).min(1).max(500) }),
    description: EDITS,
  });
  path('post', '/api/levels/{id}/lease', 'Takes, renews or gives back the right to write', { params: id, body: leaseSchema });
  path('post', '/api/levels/{id}/check', 'Starts a check of the level', { params: id, status: 202 });
  path('get', '/api/assets', 'The meshes that levels can use');
  path('post', '/api/assets', 'Checks a GLB and adds it', { body: z.string(), bodyType: 'model/gltf-binary', status: 201 });
  path('get', '/api/assets/{hash}', 'A mesh by the SHA-256 of its file', { params: z.object({ hash: z.string() }), type: 'model/gltf-binary' });
  path('delete', '/api/assets/{hash}', 'Deletes a mesh that no level uses; 409 asset-used where one does', {
    params: z.object({ hash: z.string() }),
    status: 204,
  });
  path('get', '/api/jobs/{id}', 'A running or ended job', { params: id });
  path('delete', '/api/jobs/{id}', 'Cancels a job', { params: id });
  return new OpenApiGeneratorV31(registry.definitions).generateDocument({ openapi: '3.1.0', info: { title: 'Rammer', version: '0.1.0' } });
}
