import { BufferAttribute, BufferGeometry, GLSL3, Mesh, Scene, ShaderMaterial, Camera as AnyCamera, WebGLRenderer, WebGLRenderTarget } from 'three';
import { bendsOf, FLAT } from '@rammer/core/coat/bends';
import { cellAt, coatGrid } from '@rammer/core/coat/grid';
import { BARE, dabbed, packedPaint, paintOn } from '@rammer/core/coat/paint';
import { readyCoat, ruleShare, withPaint } from '@rammer/core/coat/shares';
import { pieceCells } from '@rammer/core/cost/instances';
import type { Asset } from '@rammer/core/kit/asset';
import { boxMesh } from '@rammer/core/kit/assetMesh';
import { coatObject, type Coat } from '@rammer/core/level/objects';
import { gridOf } from '@rammer/core/level/tiles';
import { normalize, type Vec3 } from '@rammer/core/num/vec';
import { testPiece } from '@rammer/core/testing/pieces';
import { Coats } from '../../web/src/view/coats';
import { Look } from '../../web/src/view/look';
import { COATS_FRAGMENT } from '../../web/src/view/shaders/coats';
import { BUILT_LIGHT, LIGHT } from '../../web/src/view/shaders/light';

/** Shares of coats as the GPU has them beside those of core, pixel by pixel over a side of a wall: what `coats.spec` looks at. */

const W = 64;
const H = 96;
const wall = { lods: [[boxMesh([-1, 0, -0.2], [1, 3, 0.2])]], role: 'piece', name: 'wall', textureBytes: 0 } as unknown as Asset;
const coat = (id: string, where: Coat['where'], more: Partial<Coat> = {}): Coat =>
  coatObject.parse({ id, kind: 'coat', name: id, order: 0, colour: '#446633', where, ...more });
const COATS = [
  coat('a', [
    { by: 'facing', band: [20, 95], soft: 20 },
    { by: 'noise', band: [0.3, 1], soft: 0.4, seed: 77, scale: 0.7 },
  ]),
  coat('b', [
    { by: 'foot', band: [-50, 1], soft: 1.2 },
    { by: 'side', band: [0, 70], soft: 50, towards: 135 },
  ]),
  coat('c', [{ by: 'bend', band: [0.4, 1], soft: 0.6 }], { share: 0.7 }),
  coat('d', [{ by: 'height', band: [11, 13], soft: 1 }], { share: 0 }),
];
const AT: Vec3 = [20, 10, 30];

/** @returns the largest and the mean difference over all pixels and four coats, of 255, for a side that looks some way */
export function differences(way: Vec3): { most: number; mean: number; sum: number } {
  const renderer = new WebGLRenderer();
  const look = new Look(gridOf({ tilesX: 2, tilesZ: 2, spacing: 0.5 }));
  look.uniforms.uGroundLow.value = 10.2;
  const coats = new Coats(look.uniforms);
  coats.set(COATS.map(readyCoat), () => undefined);
  let cells = dabbed(wall, undefined, { at: [0.3, 2, 0.2], normal: [0, 0, 1], radius: 0.7, strength: 0.9 });
  cells = dabbed(wall, cells, { at: [-0.4, 1, 0.2], normal: [0, 0, 1], radius: 0.5, strength: -0.8 });
  const paint = packedPaint(wall, new Map(['a', 'd'].map((id) => [id, cells])))!;
  const [cell] = pieceCells([testPiece('p', AT, { asset: 'wall', paint })], new Map([['wall', wall]]));
  const painted = coats.painted(cell, wall);
  const n = normalize(way);
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from([-1, -1, 0, 3, -1, 0, -1, 3, 0]), 3));
  const grid = coatGrid(wall);
  const material = new ShaderMaterial({
    glslVersion: GLSL3,
    defines: { ...coats.defines(cell, wall) },
    depthTest: false,
    uniforms: { ...look.uniforms },
    vertexShader: `
      out vec3 vCell; flat out vec3 vPainted; out vec3 vLocal;
      void main() {
        vLocal = vec3(position.x, (position.y + 1.0) * 1.5, 0.2);
        vCell = (vLocal - vec3(${grid.min.map((v) => v.toFixed(7)).join()})) / ${grid.cell.toFixed(7)};
        vPainted = vec3(${[...painted].map((v) => v.toFixed(1)).join()});
        gl_Position = vec4(position.xy, 0.0, 1.0);
      }`,
    fragmentShader: `
      precision highp float; precision highp sampler2D;
      in vec3 vLocal; uniform vec2 uLevelSize; out vec4 outShares;
      ${LIGHT} ${BUILT_LIGHT} ${COATS_FRAGMENT}
      void main() {
        float w[COATED];
        coatShares(vLocal + vec3(${AT.map((v) => v.toFixed(1)).join()}), vec3(${n.map((v) => v.toFixed(7)).join()}), w);
        outShares = vec4(w[0], w[1], w[2], w[3]);
      }`,
  });
  const mesh = new Mesh(geometry, material);
  mesh.frustumCulled = false;
  coats.wear(mesh, wall, 'wall');
  const scene = new Scene();
  scene.add(mesh);
  const target = new WebGLRenderTarget(W, H);
  renderer.setRenderTarget(target);
  renderer.render(scene, new AnyCamera());
  const pixels = new Uint8Array(W * H * 4);
  renderer.readRenderTargetPixels(target, 0, 0, W, H, pixels);
  renderer.dispose();

  const ready = COATS.map(readyCoat);
  const bends = bendsOf(wall);
  const own = paintOn(wall, paint);
  let [most, total, sum] = [0, 0, 0];
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const local: Vec3 = [((x + 0.5) / W) * 2 - 1, ((y + 0.5) / H) * 3, 0.2];
      const at = local.map((v, k) => v + AT[k]) as Vec3;
      const place = { at, normal: n, foot: at[1] - 10.2, sky: 1, bend: (cellAt(grid, bends, local) - FLAT) / 127 };
      ready.forEach((r, i) => {
        const of = own.get(r.coat.id);
        const due = withPaint(ruleShare(r, place), of ? cellAt(grid, of, local) : BARE) * 255;
        const d = Math.abs(pixels[(y * W + x) * 4 + i] - due);
        most = Math.max(most, d);
        total += d;
        sum += due;
      });
    }
  return { most, mean: total / (W * H * 4), sum: sum / (W * H * 4) };
}
