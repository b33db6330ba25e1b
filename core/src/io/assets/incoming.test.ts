import { strToU8 } from 'fflate';
import { describe, expect, it } from 'vitest';
import { assetBounds, assetFacts } from '../../kit/asset';
import { birchGlb, crateFiles, wallFiles } from '../../testing/othersMeshes';
import { readAsset } from '../assetGlb';
import { writeZip } from '../zip';
import { readIncoming, type GivenFile } from './incoming';

const given = (files: Record<string, Uint8Array>, folder = ''): GivenFile[] => Object.entries(files).map(([path, bytes]) => ({ path: folder + path, bytes }));

describe('files that come in', () => {
  it('of a folder: a glTF with its buffer and its JPEG, an OBJ with its MTL, a GLB; what belongs to none is said', async () => {
    const read = await readIncoming(
      given({ ...(await crateFiles()), ...wallFiles(), 'birch.glb': await birchGlb(), 'readme.txt': strToU8('hello'), 'other.png': strToU8('x') }, 'mine/'),
    );
    expect(read.faults).toEqual([]);
    expect(read.unused).toEqual(['mine/readme.txt', 'mine/other.png']);
    const by = Object.fromEntries(read.meshes.map((m) => [m.asset.name, m.asset]));
    expect(Object.keys(by)).toEqual(['old crate', 'hollow wall', 'birch']);
    expect(assetBounds(by['old crate'])).toEqual({ min: [-40, -40, 0], max: [40, 40, 100] });
    expect(by['old crate'].textures!.map((t) => [t.mime, t.width, t.height])).toEqual([['image/jpeg', 32, 16]]);
    expect(assetFacts(by.birch)).toMatchObject({ triangles: [2028], materials: ['bark', 'leaf 1', 'leaf 2', 'leaf 3', 'leaf 4', 'leaf 5'] });
    const wall = by['hollow wall'];
    expect(wall.lods[0].map((p) => [p.material, p.indices.length / 3])).toEqual([
      ['render', 2],
      ['stone', 8],
    ]);
    expect(assetBounds(wall)).toEqual({ min: [0, 0, Math.fround(-0.3)], max: [2, 2.5, 0] });
    // Half way of a highlight of exponent 10: (2 / 12) ^ (1 / 4).
    expect(wall.materials![0].roughness).toBeCloseTo(0.6389, 4);
    expect(wall.materials![0].baseColour[0]).toBeCloseTo(0.6038, 4);
    // What each came from holds all it needs.
    for (const m of read.meshes) {
      const again = await readAsset(m.source, m.asset.name);
      expect(again.ok && assetFacts(again.value)).toEqual(assetFacts(m.asset));
    }
  });

  it('of a zip are found by the names their glTF uses, whatever their case', async () => {
    const files = await crateFiles();
    const zip = writeZip(Object.entries(files).map(([path, bytes]) => [`pack/${path === 'planks.jpg' ? 'textures/PLANKS.JPG' : path}`, bytes]));
    const read = await readIncoming([{ path: 'pack.zip', bytes: zip }]);
    expect([read.faults, read.unused, read.meshes.map((m) => m.path)]).toEqual([[], [], ['pack/pack/old crate.gltf']]);
  });

  it('that miss one are told by its name, and keep no other back', async () => {
    const { 'planks.jpg': _, ...rest } = await crateFiles();
    const read = await readIncoming([...given(rest), { path: 'birch.glb', bytes: await birchGlb() }]);
    expect(read.meshes.map((m) => m.asset.name)).toEqual(['birch']);
    expect(read.faults).toEqual([
      {
        path: 'old crate.gltf',
        code: 'glb-outside',
        message: 'old crate.gltf names a file that is not with it: planks.jpg. Choose it together with it, or pack everything into one .glb',
      },
    ]);
    const bare = await readIncoming(given({ 'hollow wall.obj': wallFiles()['hollow wall.obj'] }));
    expect(bare.meshes[0].asset.notes).toEqual(['hollow wall.mtl is not with it: its materials are plain. Choose it together with the OBJ']);
  });

  it('that are broken, empty, cut or of another kind are refused one by one by name', async () => {
    const birch = await birchGlb();
    const zip = writeZip([['a.glb', birch]]);
    const read = await readIncoming([
      { path: 'cut.glb', bytes: birch.slice(0, 3000) },
      { path: 'half.zip', bytes: zip.slice(0, zip.length >> 1) },
      { path: 'wrong.glb', bytes: wallFiles()['hollow wall.obj'] },
      { path: 'empty.gltf', bytes: new Uint8Array() },
      { path: 'none.obj', bytes: strToU8('# nothing\nv 0 0 0\n') },
      { path: 'nan.obj', bytes: strToU8('v 0 0 0\nv 1 0 zero\nv 0 1 0\nf 1 2 3\n') },
      { path: 'names.obj', bytes: strToU8('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 4\n') },
      { path: 'tower.xyz', bytes: strToU8('?') },
    ]);
    expect(read.meshes).toEqual([]);
    expect(read.faults.map((f) => [f.path, f.code])).toEqual([
      ['half.zip', 'zip-truncated'],
      ['cut.glb', 'glb-truncated'],
      ['wrong.glb', 'glb-invalid'],
      ['empty.gltf', 'glb-invalid'],
      ['none.obj', 'obj-no-triangles'],
      ['nan.obj', 'obj-not-finite'],
      ['names.obj', 'obj-index'],
      ['tower.xyz', 'mesh-unknown'],
    ]);
    for (const f of read.faults) expect(f.message).toContain(f.path);
    expect((await readIncoming([{ path: 'a.png', bytes: strToU8('x') }])).faults[0].code).toBe('mesh-none');
  });

  it('as OBJ count from the end, share corners and have colours and coordinates of their own', async () => {
    const text =
      'v 0 0 0 1 0 0\nv 1 0 0 0 1 0\nv 1 1 0 0 0 1\nv 0 1 0 1 1 1\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nvn 0 0 1\nf -4/-4/-1 -3/-3/-1 -2/-2/-1 -1/-1/-1\n';
    const read = await readIncoming([{ path: 'quad.obj', bytes: strToU8(text) }]);
    const [p] = read.meshes[0].asset.lods[0];
    expect([...p.indices]).toEqual([0, 1, 2, 0, 2, 3]);
    expect([...p.uvs!]).toEqual([0, 1, 1, 1, 1, 0, 0, 0]);
    expect([...p.colours!]).toEqual([1, 0, 0, 1, 0, 1, 0, 1, 0, 0, 1, 1, 1, 1, 1, 1]);
  });
});
