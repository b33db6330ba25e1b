import { extendZodWithOpenApi, OpenAPIRegistry, OpenApiGeneratorV31 } from '@asteasolutions/zod-to-openapi';
import { z } from 'zod';
import { editsSchema } from './jobs/desk';
import { knownSchema, leaseSchema, newLevelSchema, reshapeSchema } from './routes/levels';

extendZodWithOpenApi(z);

/** The doors as an OpenAPI 3.1 document, made from the schemas that guard them. */
export function openApi(): unknown {
  const registry = new OpenAPIRegistry();
  const problem = z.object({ type: z.string(), title: z.string(), status: z.number(), code: z.string() });
  const problems = { '4XX': { description: 'what was wrong, with a stable code', content: { 'application/problem+json': { schema: problem } } } };
  const id = z.object({ id: z.uuid() });
  const path = (method: 'get' | 'post' | 'delete', url: string, summary: string, more: { params?: z.ZodObject; body?: z.ZodType; bodyType?: string; status?: number; type?: string } = {}) => {
    registry.registerPath({
      method, path: url, summary,
      request: {
        ...(more.params ? { params: more.params } : {}),
        ...(more.body ? { body: { required: true, content: { [more.bodyType ?? 'application/json']: { schema: more.body } } } } : {}),
      },
      responses: { [more.status ?? 200]: { description: summary, ...(more.status === 204 ? {} : { content: { [more.type ?? 'application/json']: { schema: z.unknown() } } }) }, ...problems },
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
  path('get', '/api/levels/{id}/edits', 'The edit log after a version, a page at a time: ?after= takes the `next` of the page before; bodies up to version `folded` are not kept', { params: id });
  path('post', '/api/levels/{id}/edits/known', 'Of some edits, those the level has, and the version each made', { params: id, body: knownSchema });
  path('post', '/api/levels/{id}/edits', 'Applies edits in order', { params: id, body: editsSchema });
  path('post', '/api/levels/{id}/lease', 'Takes, renews or gives back the right to write', { params: id, body: leaseSchema });
  path('post', '/api/levels/{id}/check', 'Starts a check of the level', { params: id, status: 202 });
  path('get', '/api/assets', 'The meshes that levels can use');
  path('post', '/api/assets', 'Checks a GLB and adds it', { body: z.string(), bodyType: 'model/gltf-binary', status: 201 });
  path('get', '/api/assets/{hash}', 'A mesh by the SHA-256 of its file', { params: z.object({ hash: z.string() }), type: 'model/gltf-binary' });
  path('get', '/api/jobs/{id}', 'A running or ended job', { params: id });
  path('delete', '/api/jobs/{id}', 'Cancels a job', { params: id });
  return new OpenApiGeneratorV31(registry.definitions).generateDocument({ openapi: '3.1.0', info: { title: 'Rammer', version: '0.1.0' } });
}
