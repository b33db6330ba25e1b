import { readAsset, writeAsset } from '@rammer/core/io/assetGlb';
import { isGlb } from '@rammer/core/io/assets/gltfFile';
import { readIncoming } from '@rammer/core/io/assets/incoming';
import { summaryOf } from '@rammer/core/kit/summary';
import { sha256 } from '@rammer/core/num/sha256';
import { keepAsset } from '../../db/assetStore';
import { JobFault, type JobKind } from '../kind';

/** Checks a mesh and keeps it under its hash: a GLB as it is, what else is read (OBJ, a zip of glTF with its files) as the GLB made of it. */
export const asset: JobKind = {
  seconds: 300,
  async run(asked) {
    const name = asked.input.name as string;
    const bytes = isGlb(asked.file ?? new Uint8Array()) ? asked.file! : await packed(asked.file ?? new Uint8Array(), name);
    const read = await readAsset(bytes, name);
    if (!read.ok) throw new JobFault(read.code, read.message);
    const summary = { ...summaryOf(sha256(bytes), read.value), ...(asked.input.source ? { source: true } : {}) };
    return {
      commit: async (tx) => {
        await keepAsset(tx, bytes, summary);
        return summary;
      },
    };
  },
};

/** A mesh of another form than GLB, by its first bytes; what is none is read as GLB, which says what is wrong. */
async function packed(bytes: Uint8Array, name: string): Promise<Uint8Array> {
  const first = bytes.subarray(0, 64);
  const text = String.fromCharCode(...first).trimStart();
  const ending = bytes[0] === 0x50 && bytes[1] === 0x4b ? 'zip' : text.startsWith('{') ? 'gltf' : /^(#|v |o |g |mtllib )/.test(text) ? 'obj' : undefined;
  if (!ending) return bytes;
  const { meshes, faults } = await readIncoming([{ path: `${name.replace(/\.\w{2,4}$/, '')}.${ending}`, bytes }]);
  if (faults.length > 0) throw new JobFault(faults[0].code, faults[0].message);
  if (meshes.length > 1) throw new JobFault('mesh-many', `${name} holds ${meshes.length} meshes: send them one by one`);
  return writeAsset(meshes[0].asset);
}
