import { Document, WebIO } from '@gltf-transform/core';
import { encode } from 'fast-png';
import { zlibSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { describe, expect, it } from 'vitest';
import { assetFacts } from '../kit/asset';
import { shippedPieces } from '../kit/pieces';
import { shippedPlants } from '../kit/plants';
import { ASSET_LIMITS, readAsset, writeAsset } from './assetGlb';
import { crc32 } from './zip';

const shipped = [...shippedPieces(), ...shippedPlants()];
const wall = shipped[0];
const code = async (bytes: Uint8Array) => {
  const r = await readAsset(bytes, 'test.glb');
  return r.ok ? 'read' : r.code;
};

/** A GLB with its JSON, and if wanted its bytes, changed. */
function changed(bytes: Uint8Array, json: (g: any) => void, data?: (view: DataView) => void): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const length = view.getUint32(12, true);
  const g = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
  json(g);
  const text = new TextEncoder().encode(JSON.stringify(g));
  const padded = Math.ceil(text.length / 4) * 4;
  const rest = bytes.slice(20 + length);
  const out = new Uint8Array(20 + padded + rest.length).fill(32, 20, 20 + padded);
  out.set(bytes.subarray(0, 20));
  out.set(text, 20);
  out.set(rest, 20 + padded);
  const head = new DataView(out.buffer);
  head.setUint32(8, out.length, true);
  head.setUint32(12, padded, true);
  data?.(new DataView(out.buffer, 20 + padded + 8));
  return out;
}

/** A triangle with a picture in it, made by the library. */
async function withPicture(png: Uint8Array): Promise<Uint8Array> {
  const d = new Document();
  const buffer = d.createBuffer();
  const position = d
    .createAccessor()
    .setType('VEC3')
    .setArray(Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]))
    .setBuffer(buffer);
  const texture = d.createTexture('t').setImage(png).setMimeType('image/png');
  const mesh = d
    .createMesh('m')
    .addPrimitive(
      d.createPrimitive().setAttribute('POSITION', position).setMaterial(d.createMaterial('leaf').setBaseColorTexture(texture).setAlphaMode('MASK')),
    );
  d.createScene('tri').addChild(d.createNode('n').setMesh(mesh).setTranslation([5, 0, 0]));
  return new WebIO().writeBinary(d);
}
const png = encode({ width: 8, height: 4, data: new Uint8Array(8 * 4 * 3).fill(90), channels: 3, depth: 8 });

describe('an asset', () => {
  it('has no fault for the Khronos validator', async () => {
    for (const asset of shipped) {
      const report = await validateBytes(await writeAsset(asset));
      expect([asset.name, report.issues.numErrors, report.issues.numWarnings, report.issues.messages.filter((m) => m.severity < 2)]).toEqual([
        asset.name,
        0,
        0,
        [],
      ]);
    }
  });

  it('comes back as it was written: meshes, LODs, collider, sizes, tags', async () => {
    for (const asset of shipped) {
      const read = await readAsset(await writeAsset(asset));
      expect(read).toMatchObject({ ok: true });
      if (!read.ok) continue;
      expect(read.value).toEqual(asset);
      expect(assetFacts(read.value)).toEqual(assetFacts(asset));
    }
  });

  it('of another program is read with its node transforms, base colour and picture', async () => {
    const read = await readAsset(await withPicture(png), 'fern');
    expect(read).toMatchObject({ ok: true, value: { name: 'tri', role: 'piece', collider: 'mesh', trunk: 0 } });
    if (!read.ok) return;
    const [p] = read.value.lods[0];
    expect([...p.positions]).toEqual([5, 0, 0, 6, 0, 0, 5, 1, 0]);
    expect([...p.normals.subarray(0, 3)]).toEqual([0, 0, 1]);
    expect(p.alphaTested).toBe(true);
    expect(assetFacts(read.value).alphaArea).toBeCloseTo(0.5, 6);
    expect(read.value.textureBytes).toBe(Math.round((8 * 4 * 4 * 4) / 3));
  });
});

describe('a hostile asset', () => {
  it('is refused by a named fault', async () => {
    const good = await writeAsset(wall);
    expect(await code(good)).toBe('read');
    const cases: [Uint8Array, string][] = [
      [new Uint8Array(), 'glb-invalid'],
      [new TextEncoder().encode('solid cube made of text, not a GLB'), 'glb-invalid'],
      [good.slice(0, good.length - 40), 'glb-truncated'],
      [
        changed(good, (g) => {
          g.nodes[0].children = [0];
        }),
        'glb-node-loop',
      ],
      [
        changed(good, (g) => {
          g.nodes[0].children = [1];
          g.nodes[1].children = [0];
        }),
        'glb-node-loop',
      ],
      [
        changed(good, (g) => {
          g.nodes[0].children = [99];
        }),
        'glb-node',
      ],
      [
        changed(good, (g) => {
          g.accessors[0].count = 4_000_000_000;
        }),
        'glb-range',
      ],
      [
        changed(good, (g) => {
          g.accessors[0].byteOffset = 1e9;
        }),
        'glb-range',
      ],
      [
        changed(good, (g) => {
          g.bufferViews[0].byteLength = 1e9;
        }),
        'glb-range',
      ],
      [
        changed(good, (g) => {
          delete g.accessors[0].bufferView;
        }),
        'glb-range',
      ],
      [
        changed(good, (g) => {
          g.accessors[0].componentType = 1;
        }),
        'glb-invalid',
      ],
      [
        changed(good, (g) => {
          g.meshes = g.meshes.map((m: any) => ({ ...m, primitives: m.primitives.map((p: any) => ({ ...p, mode: 1 })) }));
        }),
        'glb-no-triangles',
      ],
      [
        changed(good, (g) => {
          g.scenes[0].nodes = [];
        }),
        'glb-no-triangles',
      ],
      [
        changed(
          good,
          () => {},
          (v) => v.setFloat32(0, Number.NaN, true),
        ),
        'glb-not-finite',
      ],
      [
        changed(
          good,
          () => {},
          (v) => v.setFloat32(0, 4e7, true),
        ),
        'glb-size',
      ],
      [
        changed(good, (g) => {
          g.buffers[0].uri = 'other.bin';
        }),
        'glb-outside',
      ],
      [
        changed(good, (g) => {
          g.extensionsRequired = ['EXT_nobody_reads_this'];
        }),
        'glb-extension',
      ],
      [
        changed(good, (g) => {
          g.scenes[0].extras.rammer.collider = 'jelly';
        }),
        'glb-extras',
      ],
      [
        changed(good, (g) => {
          g.scenes[0].extras.rammer.role = 'plant';
          g.scenes[0].nodes = [0];
        }),
        'glb-extras',
      ],
    ];
    for (const [i, [bytes, wanted]] of cases.entries()) expect([i, await code(bytes)]).toEqual([i, wanted]);
    const r = await readAsset(
      changed(good, (g) => {
        g.nodes[0].children = [0];
      }),
      'wall.glb',
    );
    expect(r).toMatchObject({ ok: false, message: 'wall.glb: node 0 is its own ancestor' });
  });

  it('with an index beyond its vertices is refused', async () => {
    const d = new Document();
    const buffer = d.createBuffer();
    const p = d
      .createPrimitive()
      .setAttribute('POSITION', d.createAccessor().setType('VEC3').setArray(new Float32Array(9)).setBuffer(buffer))
      .setIndices(
        d
          .createAccessor()
          .setType('SCALAR')
          .setArray(Uint32Array.from([0, 1, 7]))
          .setBuffer(buffer),
      );
    d.createScene().addChild(d.createNode().setMesh(d.createMesh().addPrimitive(p)));
    expect(await code(await new WebIO().writeBinary(d))).toBe('glb-index');
  });

  it('with a picture that lies in its header is refused before it is decoded', async () => {
    const lie = (width: number, height: number) => {
      const bytes = png.slice();
      new DataView(bytes.buffer).setUint32(16, width);
      new DataView(bytes.buffer).setUint32(20, height);
      return bytes;
    };
    expect(await code(await withPicture(lie(60_000, 60_000)))).toBe('png-size');
    expect(await code(await withPicture(lie(4000, 4000)))).toBe('png-lies');
    expect(await code(await withPicture(lie(9, 4)))).toBe('png-lies');
    expect(await code(await withPicture(lie(0, 4)))).toBe('png-size');
    expect(await code(await withPicture(png.slice(0, 60)))).toBe('png-lies');
    expect(ASSET_LIMITS.pictureSide).toBe(8192);
  });

  it('damaged anywhere is read or refused, never a crash', async () => {
    const good = await writeAsset(shipped[3]);
    for (let i = 0; i < 150; i++) {
      const bad = good.slice();
      bad[(i * 7919) % bad.length] ^= 1 + (i % 255);
      const r = await readAsset(bad);
      if (!r.ok) expect(r.code).toMatch(/^(glb|png)-/);
    }
  });
});

describe('a small file that asks for much', () => {
  /** A PNG of the parts given after its signature and header. */
  const pngOf = (width: number, height: number, ...chunks: [string, Uint8Array][]) => {
    const head = new Uint8Array(13);
    const view = new DataView(head.buffer);
    view.setUint32(0, width);
    view.setUint32(4, height);
    head.set([8, 2, 0, 0, 0], 8);
    const parts = [['IHDR', head], ...chunks, ['IEND', new Uint8Array()]].map(([type, data]) => {
      const body = new Uint8Array([...new TextEncoder().encode(type as string), ...(data as Uint8Array)]);
      const out = new Uint8Array(body.length + 8);
      new DataView(out.buffer).setUint32(0, body.length - 4);
      out.set(body, 4);
      new DataView(out.buffer).setUint32(body.length + 4, crc32(body));
      return out;
    });
    return new Uint8Array([137, 80, 78, 71, 13, 10, 26, 10, ...parts.flatMap((p) => [...p])]);
  };
  const rows = (n: number) => zlibSync(new Uint8Array(n));
  const peak = async (work: () => Promise<unknown>) => {
    const before = process.memoryUsage().rss;
    await work();
    return process.memoryUsage().rss - before;
  };

  it('of meshes that stand in many places, or share their data, is refused before it is decoded', async () => {
    const glb = await writeAsset(wall);
    const many = changed(
      glb,
      (g) => {
        const mesh = g.nodes[0].mesh;
        g.meshes[mesh].primitives = Array.from({ length: 100 }, () => g.meshes[mesh].primitives[0]);
        g.accessors[g.meshes[mesh].primitives[0].attributes.POSITION].count = 300;
        g.nodes = Array.from({ length: 1000 }, () => ({ mesh }));
        g.scenes[0].nodes = g.nodes.map((_: unknown, i: number) => i);
      },
      () => {},
    );
    expect(await code(many)).toMatch(/glb-(too-large|range)/);
    const stands = changed(glb, (g) => {
      g.nodes = Array.from({ length: 1000 }, () => ({ mesh: g.nodes[0].mesh }));
      g.meshes[g.nodes[0].mesh].primitives = Array.from({ length: 400 }, () => g.meshes[g.nodes[0].mesh].primitives[0]);
      g.scenes[0].nodes = g.nodes.map((_: unknown, i: number) => i);
    });
    expect(await code(stands)).toBe('glb-too-large');
    expect(
      await code(
        changed(glb, (g) => {
          g.accessors = Array.from({ length: 300_000 }, () => g.accessors[0]);
        }),
      ),
    ).toBe('glb-too-large');
    expect(
      await code(
        changed(glb, (g) => {
          g.nodes.push({ children: [0] }, { children: [0] });
        }),
      ),
    ).toBe('glb-node');
    expect(
      await code(
        changed(glb, (g) => {
          g.scenes[0].nodes = Array(100_000).fill(0);
        }),
      ),
    ).toBe('glb-node');
    expect(
      await code(
        changed(glb, (g) => {
          g.extras = JSON.parse(`${'['.repeat(200)}${']'.repeat(200)}`);
        }),
      ),
    ).toBe('glb-too-large');
    expect(
      await code(
        changed(glb, (g) => {
          g.extras = Array(1_600_000).fill([0]);
        }),
      ),
    ).toBe('glb-too-large');
  });

  it('of a picture that unpacks to more than it states, or carries a bomb beside it, takes no memory', async () => {
    const honest = pngOf(16, 16, ['IDAT', rows(16 * 49)]);
    expect(await code(await withPicture(honest))).toBe('read');
    const bomb = pngOf(16, 16, ['IDAT', rows(48 << 20)]);
    const profile = pngOf(16, 16, ['iCCP', new Uint8Array([65, 0, 0, ...rows(48 << 20)])], ['IDAT', rows(16 * 49)]);
    const [big, beside] = [await withPicture(bomb), await withPicture(profile)];
    expect(
      await peak(async () => {
        expect(await code(big)).toBe('png-lies');
        expect(await code(beside)).toBe('read');
      }),
    ).toBeLessThan(40 << 20);
    expect(await code(await withPicture(pngOf(16, 16, ['IDAT', rows(16 * 49 - 1)])))).toBe('png-lies');
    const bent = honest.slice();
    bent[bent.length - 20] ^= 1;
    expect(await code(await withPicture(bent))).toBe('png-lies');
  });

  it('of forty pictures that are one reads that one once', async () => {
    const glb = await withPicture(pngOf(4000, 4000, ['IDAT', rows(4000 * 12_001)]));
    const started = performance.now();
    expect(await code(glb)).toBe('read');
    const one = performance.now() - started;
    const forty = changed(glb, (g) => {
      g.images = Array(40).fill(g.images[0]);
    });
    const again = performance.now();
    expect(await code(forty)).toBe('read');
    expect(performance.now() - again).toBeLessThan(one * 8 + 500);
  });

  it('interlaced, grey, with a palette or 16 bits deep is a picture like any other', async () => {
    const chunks = (bytes: Uint8Array, depth: number, colour: number, interlace: number, size: number) => {
      const out = pngOf(5, 3, ...(colour === 3 ? [['PLTE', new Uint8Array(6)] as [string, Uint8Array]] : []), ['IDAT', rows(size)]);
      out.set([depth, colour, 0, 0, interlace], 24);
      new DataView(out.buffer).setUint32(29, crc32(out.subarray(12, 29)));
      return bytes.length === 0 ? out : bytes;
    };
    const none = new Uint8Array();
    // Five by three in seven passes: 1x1, 1x1, 2x0, 1x1 (column 2), 3x1 ... worked out by hand: 1+1, 1+1, none, 1+1, 1+3, 2x(1+2), 1x(1+5).
    for (const bytes of [
      chunks(none, 1, 0, 0, 3 * 2),
      chunks(none, 4, 3, 0, 3 * 4),
      chunks(none, 16, 4, 0, 3 * 21),
      chunks(none, 8, 0, 1, 2 + 2 + 2 + 4 + 6 + 6),
    ])
      expect(await code(await withPicture(bytes))).toBe('read');
    expect(await code(await withPicture(chunks(none, 3, 0, 0, 6)))).toBe('png-lies');
  });

  it('with any field of another form is refused by name, never a crash', async () => {
    const glb = await withPicture(png);
    const odd: unknown[] = [null, -1, 1e9, 'x', [], {}, true, 0.5];
    const paths: string[][] = [];
    const walk = (value: unknown, path: string[]) => {
      if (typeof value !== 'object' || value === null) return;
      for (const key of Object.keys(value)) {
        paths.push([...path, key]);
        walk((value as Record<string, unknown>)[key], [...path, key]);
      }
    };
    changed(glb, (g) => walk(g, []));
    expect(paths.length).toBeGreaterThan(40);
    for (const path of paths) {
      for (const value of odd) {
        const bytes = changed(glb, (g) => {
          const last = path.slice(0, -1).reduce((o, k) => o[k], g);
          last[path.at(-1)!] = value;
        });
        expect(await code(bytes)).toMatch(/^(read|glb-[a-z-]+|png-[a-z]+)$/);
      }
    }
  });
});
