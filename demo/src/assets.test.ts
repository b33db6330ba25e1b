import { readdirSync, readFileSync, statSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { assetBounds, assetFacts } from '@rammer/core/kit/asset';
import { findingsOf } from '@rammer/core/kit/findings';
import { pictureOf } from '@rammer/core/io/referenceGlb';
import { edgeSteps } from '@rammer/core/surface/pictured';
import { pictureKey } from '@rammer/core/kit/pictureKey';
import { UNLIKELY } from '@rammer/core/kit/realSizes';
import { demoKits } from './kits';
import { Form } from './made/form/form';
import { meshOf } from './made/form/bake';
import { frames, moved, turned } from './made/form/frame';
import { SHARP } from './made/plants/asset';
import { readme, shipped } from './readme';
import { shippedGrounds } from './shippedAssets';

const all = await shipped();
const of = (name: string) => all.find((a) => a.asset.name === name)!.asset;

describe('the shipped assets', () => {
  it('are 17 pieces, 12 props and 15 plants, within 30 MB with the grounds and both levels', () => {
    const roles = all.map((a) => a.asset.role);
    expect(['piece', 'prop', 'plant'].map((r) => roles.filter((x) => x === r).length)).toEqual([17, 12, 15]);
    const size = (folder: string) =>
      readdirSync(new URL(`../${folder}`, import.meta.url)).reduce((s, f) => s + statSync(new URL(`../${folder}/${f}`, import.meta.url)).size, 0);
    const levels = ['small', 'large'].reduce((s, n) => s + statSync(new URL(`../harrow-ledge-${n}.rammer.zip`, import.meta.url)).size, 0);
    expect(size('kit') + size('grounds') + levels).toBeLessThan(30e6);
  });

  it('each have LODs that get coarser, a licence, heights they are within, and pictures of their own', () => {
    for (const { asset } of all) {
      const { triangles, size } = assetFacts(asset);
      expect([asset.name, triangles.length >= 2, triangles.every((n, i) => i === 0 || n < triangles[i - 1])]).toEqual([asset.name, true, true]);
      expect(asset.errors).toHaveLength(triangles.length - 1);
      expect(asset.licence).toContain('this project');
      expect(asset.textures!.length).toBeGreaterThan(0);
      const [low, high] = asset.real!;
      expect([asset.name, size[1] >= low * UNLIKELY.small && size[1] <= high * UNLIKELY.large]).toEqual([asset.name, true]);
    }
    // Leaves and twigs near by, a picture from eight sides far away.
    for (const name of ['birch', 'birch 2', 'birch 3', 'rowan'])
      expect([name, of(name).distant !== undefined, assetFacts(of(name)).triangles[0] > 4000]).toEqual([name, true, true]);
  });

  it('stand on their foot or reach into the ground, none floats; what is on a grid fills it to the millimetre', () => {
    for (const { asset } of all.filter((a) => !['roof', 'chain', 'gantry beam'].includes(a.asset.name)))
      expect([asset.name, assetBounds(asset).min[1] <= 0.02]).toEqual([asset.name, true]);
    for (const name of ['wall', 'door wall', 'window wall', 'floor', 'roof', 'ridge', 'rail track']) {
      const { min, max } = assetBounds(of(name));
      expect([name, Math.round(min[0] * 1000), Math.round(max[0] * 1000)]).toEqual([name, -1000, 1000]);
    }
  });

  it('are parts of the kits as the kits measure them', () => {
    for (const kit of demoKits())
      for (const part of kit.parts) {
        const { min, max } = assetBounds(of(part.asset.replace('kit-', '').replaceAll('-', ' ')));
        for (const k of [0, 1, 2])
          expect([part.asset, Math.abs(part.box[0][k] - min[k]) < 1e-3, Math.abs(part.box[1][k] - max[k]) < 1e-3]).toEqual([part.asset, true, true]);
      }
  });

  it('have what the README says of them, flaws too', async () => {
    expect(await readme()).toBe(readFileSync(new URL('../README.md', import.meta.url), 'utf8'));
    const about = (name: string) => findingsOf(of(name), SHIPPED_BODIES.adult).map((f) => f.about);
    expect(about('chain')).toContain('collider');
    expect(about('window wall')).toContain('materials');
    expect(about('ridge')).toContain('hollow');
    expect(about('barrel')).toEqual([]);
  });

  it('have pictures of the ground that come out of their files: WebP, never quite clear, so that no colour is forgotten', async () => {
    for (const { bytes } of shippedGrounds()) {
      const picture = await pictureOf(bytes);
      if (!picture.ok) throw new Error(picture.message);
      const { width, height, data } = await SHARP.unpack({ name: 'ground', mime: 'image/webp', bytes: picture.value, width: 0, height: 0, gpuBytes: 0 });
      expect([width, height]).toEqual([1024, 1024]);
      let [low, high] = [255, 0];
      for (let i = 3; i < data.length; i += 4) [low, high] = [Math.min(low, data[i]), Math.max(high, data[i])];
      expect(low).toBeGreaterThan(80);
      expect(high).toBeGreaterThan(200);
      // It tiles: from edge to edge it steps no more than from pixel to pixel.
      expect(edgeSteps(data, 1024)).toBeLessThan(1.6);
    }
  });

  it('share the pictures of a stuff, byte for byte', () => {
    const masonry = ['wall', 'door wall', 'window wall', 'gable'].map((n) => of(n).textures!.find((t) => t.name === 'masonry colour')!);
    expect(new Set(masonry.map(pictureKey)).size).toBe(1);
    expect(masonry[0].width).toBe(1024);
  });
});

describe('a form', () => {
  it('takes the edges off a box: 6 faces, 12 edges and 8 corners, closed, every normal outwards', () => {
    const form = new Form().box([0, 0, 0], [1, 2, 3], { stuff: 'timber', bevel: 0.1 });
    const { positions: p, indices } = meshOf(form);
    expect(indices.length / 3).toBe(6 * 2 + 12 * 2 + 8);
    // By the divergence theorem: a box less 12 prisms along its edges, which meet in threes at 8 corners.
    let volume = 0;
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => p.subarray(indices[i + k] * 3, indices[i + k] * 3 + 3));
      volume += (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;
    }
    const edges = 4 * (1 + 2 + 3) * (0.1 * 0.1) * 0.5;
    expect(volume).toBeGreaterThan(6 - edges - 1e-9);
    expect(volume).toBeLessThan(6 - edges + 8 * 0.1 ** 3);
    for (const { points, normals } of form.patches)
      points.forEach((q, i) => expect(normals[i][0] * (q[0] - 0.5) + normals[i][1] * (q[1] - 1) + normals[i][2] * (q[2] - 1.5)).toBeGreaterThan(0));
  });

  it('lies where its frame says: turned, then moved', () => {
    const form = new Form().in(frames(moved(5, 0, 0), turned('y', 90)), (f) => f.box([0, 0, 0], [1, 1, 1], { stuff: 'timber', bevel: 0 }));
    const { positions } = meshOf(form);
    const x = [...positions].filter((_, i) => i % 3 === 0);
    const z = [...positions].filter((_, i) => i % 3 === 2);
    expect([Math.min(...x), Math.max(...x), Math.min(...z), Math.max(...z)].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([5, 6, -1, 0]);
  });

  it('turns a profile into what it should hold: a cylinder of 64 sides, a hair less than round', () => {
    const form = new Form().turned(
      [
        [0, 0],
        [1, 0],
        [1, 2],
        [0, 2],
      ],
      64,
      'iron',
    );
    const { positions: p, indices } = meshOf(form);
    let volume = 0;
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => p.subarray(indices[i + k] * 3, indices[i + k] * 3 + 3));
      volume += (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;
    }
    expect(volume).toBeCloseTo(64 * Math.sin((2 * Math.PI) / 64), 4);
  });
});
