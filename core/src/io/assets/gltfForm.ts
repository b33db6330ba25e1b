import { z } from 'zod';

const index = z.number().int().min(0);
const many = <T extends z.ZodType>(item: T) => z.array(item).optional();
const extensions = z.record(z.string(), z.unknown()).optional();

/** The parts of glTF 2.0 that are looked at before anything is decoded; what else there is is left alone. */
export const gltfForm = z.looseObject({
  scene: index.optional(),
  scenes: many(z.looseObject({ nodes: many(index), name: z.string().optional() })),
  nodes: many(z.looseObject({ children: many(index), mesh: index.optional(), extensions })),
  meshes: many(
    z.looseObject({
      primitives: z.array(
        z.looseObject({ attributes: z.record(z.string(), index), indices: index.optional(), mode: z.number().int().min(0).max(6).optional(), extensions }),
      ),
    }),
  ),
  accessors: many(
    z.looseObject({
      bufferView: index.optional(),
      byteOffset: index.optional(),
      componentType: z.number(),
      count: index,
      type: z.string(),
      sparse: z
        .looseObject({
          count: index,
          indices: z.looseObject({ bufferView: index, byteOffset: index.optional(), componentType: z.number() }),
          values: z.looseObject({ bufferView: index, byteOffset: index.optional() }),
        })
        .optional(),
    }),
  ),
  bufferViews: many(z.looseObject({ buffer: index, byteOffset: index.optional(), byteLength: index, byteStride: index.optional(), extensions })),
  buffers: many(z.looseObject({ byteLength: index, uri: z.string().optional(), extensions })),
  images: many(z.looseObject({ bufferView: index.optional(), uri: z.string().optional(), mimeType: z.string().optional() })),
  extensionsUsed: many(z.string()),
  extensionsRequired: many(z.string()),
});
export type Gltf = z.infer<typeof gltfForm>;

/** EXT_meshopt_compression of a buffer view; KHR_meshopt_compression has the same form. */
export const meshoptForm = z.looseObject({
  buffer: index,
  byteOffset: index.optional(),
  byteLength: index,
  byteStride: index,
  count: index,
});

/** KHR_draco_mesh_compression of a primitive. */
export const dracoForm = z.looseObject({ bufferView: index, attributes: z.record(z.string(), index) });

/** EXT_mesh_gpu_instancing of a node. */
export const instancingForm = z.looseObject({ attributes: z.record(z.string(), index) });
