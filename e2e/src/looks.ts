import {
  AmbientLight,
  Color,
  DirectionalLight,
  HemisphereLight,
  InstancedMesh,
  LinearSRGBColorSpace,
  Matrix4,
  PerspectiveCamera,
  Scene,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
  type IUniform,
} from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { readAsset } from '@rammer/core/io/assetGlb';
import { assetBounds } from '@rammer/core/kit/asset';
import { AuthoredMaterials, AuthoredTextures } from '../../web/src/view/authoredMaterials';
import { primitiveGeometry } from '../../web/src/view/instanceView';

/** Pixels a side of each picture. */
const SIDE = 192;
const SUN = new Vector3(0.4, 0.7, 0.6).normalize();
const [SUNLIGHT, ABOVE, BELOW] = [0.8, 0.35, 0.15];

/** A mesh drawn by our own view and by three's loader and materials, same camera and light: how far their pixels lie apart. */
export async function compared(base64: string): Promise<{ mean: number; most: number; covered: number }> {
  const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
  const read = await readAsset(bytes, 'mesh');
  if (!read.ok) throw new Error(read.message);
  const { min, max } = assetBounds(read.value);
  const middle = new Vector3(...[0, 1, 2].map((k) => (min[k] + max[k]) / 2));
  const reach = Math.hypot(...[0, 1, 2].map((k) => max[k] - min[k])) / 2;
  const camera = new PerspectiveCamera(40, 1, reach * 0.1, reach * 10);
  camera.position.copy(middle).add(new Vector3(0.6, 0.5, 1).normalize().multiplyScalar(reach * 3.2));
  camera.lookAt(middle);
  camera.updateMatrixWorld();
  const [ours, theirs] = [await drawnByUs(read.value, camera), await drawnByThree(bytes, camera)];
  let [sum, most, covered] = [0, 0, 0];
  for (let i = 0; i < ours.length; i += 4) {
    const there = ours[i + 3] > 0 || theirs[i + 3] > 0;
    if (!there) continue;
    covered++;
    for (let k = 0; k < 3; k++) {
      const d = Math.abs(ours[i + k] - theirs[i + k]);
      sum += d;
      most = Math.max(most, d);
    }
  }
  return { mean: sum / Math.max(1, covered * 3), most, covered: covered / (SIDE * SIDE) };
}

function rendererOf(): WebGLRenderer {
  const renderer = new WebGLRenderer({ antialias: false, alpha: true, preserveDrawingBuffer: true, premultipliedAlpha: false });
  renderer.setSize(SIDE, SIDE, false);
  renderer.setClearColor(new Color(0), 0);
  return renderer;
}

function pixelsOf(renderer: WebGLRenderer, scene: Scene, camera: PerspectiveCamera): Uint8Array {
  renderer.render(scene, camera);
  const gl = renderer.getContext();
  const out = new Uint8Array(SIDE * SIDE * 4);
  gl.readPixels(0, 0, SIDE, SIDE, gl.RGBA, gl.UNSIGNED_BYTE, out);
  renderer.dispose();
  renderer.forceContextLoss();
  return out;
}

async function drawnByUs(asset: Extract<Awaited<ReturnType<typeof readAsset>>, { ok: true }>['value'], camera: PerspectiveCamera): Promise<Uint8Array> {
  const renderer = rendererOf();
  renderer.outputColorSpace = LinearSRGBColorSpace;
  // Lights as they look, which our shader takes them as.
  const shared: Record<string, IUniform> = {
    uSun: { value: SUN },
    uEye: { value: camera.position },
    uWork: { value: 0 },
    uSunlight: { value: new Vector3().setScalar(Math.sqrt(SUNLIGHT)) },
    uFill: { value: new Vector3().setScalar(Math.sqrt(ABOVE)) },
    uBounce: { value: new Vector3().setScalar(Math.sqrt(BELOW)) },
    uHaze: { value: new Vector3() },
    uThick: { value: 0 },
    uGrade: { value: new Vector3(1, 1, 1) },
    uLevelSize: { value: new Vector2(1, 1) },
    uPlaceLight: { value: null },
    uCover: { value: null },
    uCoverLow: { value: 0 },
    uCoverFrom: { value: 0 },
  };
  const textures = new AuthoredTextures(renderer);
  const materials = new AuthoredMaterials(shared, textures);
  await materials.ready(asset);
  const scene = new Scene();
  for (const p of asset.lods[0]) {
    const mesh = new InstancedMesh(primitiveGeometry(p), materials.of(asset, p, { merged: false, studio: true }), 1);
    mesh.setMatrixAt(0, new Matrix4());
    mesh.frustumCulled = false;
    scene.add(mesh);
  }
  // Pictures are put into their materials a moment after they came.
  await new Promise((later) => setTimeout(later, 30));
  return pixelsOf(renderer, scene, camera);
}

async function drawnByThree(bytes: Uint8Array, camera: PerspectiveCamera): Promise<Uint8Array> {
  const renderer = rendererOf();
  renderer.outputColorSpace = SRGBColorSpace;
  const { scene: model } = await new GLTFLoader().parseAsync(bytes.slice().buffer, '');
  const scene = new Scene();
  scene.add(model);
  // A light of pi lights a white sheet that faces it to one.
  const sun = new DirectionalLight(new Color(1, 1, 1), Math.PI * SUNLIGHT);
  sun.position.copy(SUN);
  const sky = new HemisphereLight(new Color().setRGB(ABOVE, ABOVE, ABOVE), new Color().setRGB(BELOW, BELOW, BELOW), Math.PI);
  scene.add(sun, sky, new AmbientLight(0, 0));
  return pixelsOf(renderer, scene, camera);
}
