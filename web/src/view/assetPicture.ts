import { InstancedMesh, Matrix4, OrthographicCamera, Scene, Vector3, WebGLRenderTarget, type IUniform, type WebGLRenderer } from 'three';
import type { BodyFigures } from '@rammer/core/body/bodies';
import { assetBounds, type Asset } from '@rammer/core/kit/asset';
import { figureMesh } from './figure';
import { instanceMaterial, primitiveGeometry } from './instanceView';

const WIDTH = 224;
const HEIGHT = 160;
const made = new WeakMap<Asset, Map<string, string>>();

/**
 * A picture of an asset beside the figure, both at one scale, in even light: drawn here, by the view's
 * own renderer, once an asset and body. A data URL.
 */
export function assetPicture(renderer: WebGLRenderer, shared: Record<string, IUniform>, asset: Asset, body: BodyFigures): string {
  const key = `${body.height},${body.radius}`;
  const known = made.get(asset)?.get(key);
  if (known) return known;
  const { min, max } = assetBounds(asset);
  const scene = new Scene();
  // It stands on no ground: the level's is out of reach.
  const uniforms = { ...shared, uWork: { value: 1 }, uEye: { value: new Vector3() }, uGroundLow: { value: 1e4 } };
  const material = instanceMaterial(uniforms, asset.role === 'piece' ? 'piece' : 'plant', true);
  const meshes = asset.lods[0].map((p) => {
    const mesh = new InstancedMesh(primitiveGeometry(p), material, 1);
    mesh.setMatrixAt(0, new Matrix4());
    mesh.frustumCulled = false;
    return mesh;
  });
  const figure = figureMesh(body);
  figure.position.set(max[0] + body.radius + 0.35, 0, max[2] * 0.5);
  scene.add(...meshes, figure);
  // Framed with what is wider: the asset with the figure at its side, or their height.
  const left = min[0] - 0.3;
  const right = max[0] + body.radius * 2 + 0.7;
  const top = Math.max(max[1], body.height) + 0.2;
  const bottom = Math.min(min[1], 0) - 0.2;
  const depth = (max[2] - min[2]) * 0.45;
  const half = Math.max((right - left + depth) / 2 / (WIDTH / HEIGHT), (top - bottom + depth) / 2);
  const camera = new OrthographicCamera(-half * (WIDTH / HEIGHT), half * (WIDTH / HEIGHT), half, -half, 0.1, 200);
  const centre = new Vector3((left + right) / 2, (top + bottom) / 2, (min[2] + max[2]) / 2);
  camera.position.copy(centre).add(new Vector3(14, 13, 30));
  camera.lookAt(centre);
  camera.updateMatrixWorld();
  uniforms.uEye.value.copy(camera.position);
  const target = new WebGLRenderTarget(WIDTH, HEIGHT);
  const before = renderer.getRenderTarget();
  const clear = renderer.getClearAlpha();
  renderer.setRenderTarget(target);
  renderer.setClearAlpha(0);
  renderer.clear();
  renderer.render(scene, camera);
  const pixels = new Uint8Array(WIDTH * HEIGHT * 4);
  renderer.readRenderTargetPixels(target, 0, 0, WIDTH, HEIGHT, pixels);
  renderer.setRenderTarget(before);
  renderer.setClearAlpha(clear);
  target.dispose();
  material.dispose();
  for (const m of [...meshes, figure]) m.geometry.dispose();
  const canvas = document.createElement('canvas');
  canvas.width = WIDTH;
  canvas.height = HEIGHT;
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(WIDTH, HEIGHT);
  // The renderer's rows start at the bottom.
  for (let y = 0; y < HEIGHT; y++) image.data.set(pixels.subarray((HEIGHT - 1 - y) * WIDTH * 4, (HEIGHT - y) * WIDTH * 4), y * WIDTH * 4);
  context.putImageData(image, 0, 0);
  const url = canvas.toDataURL('image/png');
  (made.get(asset) ?? made.set(asset, new Map()).get(asset)!).set(key, url);
  return url;
}
