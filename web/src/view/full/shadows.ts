import {
  DepthTexture,
  LessEqualCompare,
  LinearFilter,
  MeshBasicMaterial,
  OrthographicCamera,
  RedFormat,
  UnsignedByteType,
  UnsignedIntType,
  Vector3,
  WebGLRenderTarget,
  type Matrix4,
  type Scene,
  type WebGLRenderer,
} from 'three';
import type { Camera } from '@rammer/core/cost/camera';
import { boxAbout, lightBoxes, lightMatrix, sidesOf, throwsInto, type Bounds, type LightBox } from '@rammer/core/light/cascades';
import type { Vec3 } from '@rammer/core/num/vec';
import { PEOPLE } from '../layers';
import type { Wardrobe } from './dress';
import type { FullUniforms } from './uniforms';
import type { Staged } from './staged';

/** Far ends of the sun's four boxes of light, metres. */
export const SUN_ENDS = [9, 28, 85, 260] as const;
/** Half the side of the near box of a direction of the sky, metres; the far one holds all of the level, up to a kilometre. */
const SKY_NEAR = 22;
const SKY_MOST = 500;

/** Shadows of the sun in four boxes of light, and of one direction of the sky in two. */
export class Shadows {
  private readonly sun: WebGLRenderTarget;
  private readonly sky: WebGLRenderTarget;
  private readonly camera = new OrthographicCamera();
  private readonly people = new MeshBasicMaterial({ colorWrite: false, polygonOffset: true, polygonOffsetFactor: 1.5, polygonOffsetUnits: 2 });

  /** @param side texels of a side of each box */
  constructor(
    private readonly renderer: WebGLRenderer,
    private readonly wardrobe: Wardrobe,
    private readonly uniforms: FullUniforms,
    readonly side: number,
  ) {
    this.sun = depthTarget(side * 2, side * 2);
    this.sky = depthTarget(side * 2, side);
    // A sampler of depth wants a texture of depth from its first draw on.
    for (const target of [this.sun, this.sky]) renderer.initRenderTarget(target);
    uniforms.uShadow.value = this.sun.depthTexture as never;
    uniforms.uSkyShadow.value = this.sky.depthTexture as never;
    this.camera.layers.set(0);
  }

  /** Draws the shadows of a light far away. @param shared `uEye` and `uView` of the level's shaders, turned to the light meanwhile */
  drawSun(staged: Staged, camera: Camera, toSun: Vec3): void {
    const boxes = lightBoxes(camera, toSun, SUN_ENDS, this.side, staged.bounds);
    const all = camera.fov === 0 ? [boxes[0], boxes[0], boxes[0], boxes[0]] : boxes;
    const texels: number[] = [];
    all.forEach((box, i) => {
      (this.uniforms.uShadowAt.value[i] as Matrix4).fromArray(lightMatrix(box));
      texels.push((2 * box.half) / this.side);
    });
    this.uniforms.uShadowTexel.value.fromArray(texels);
    this.draw(this.sun, staged, boxes, 2);
  }

  /** Draws what one direction of the sky sees. */
  drawSky(staged: Staged, camera: Camera, from: Vec3): void {
    const { min, max } = staged.bounds;
    const middle: Vec3 = camera.fov === 0 ? [camera.eye[0], (min[1] + max[1]) / 2, camera.eye[2]] : camera.eye;
    const near = camera.fov === 0 ? Math.min(SKY_MOST, camera.halfHeight * 2) : SKY_NEAR;
    const whole: Vec3 = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2];
    const across = Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) / 2;
    const boxes = [
      boxAbout(middle, near, from, this.side, staged.bounds),
      boxAbout(across > SKY_MOST ? middle : whole, Math.min(SKY_MOST, across), from, this.side, staged.bounds),
    ];
    boxes.forEach((box, i) => (this.uniforms.uSkyAt.value[i] as Matrix4).fromArray(lightMatrix(box)));
    this.uniforms.uSkyTexel.value.set((2 * boxes[0].half) / this.side, (2 * boxes[1].half) / this.side);
    this.uniforms.uSkyFrom.value.set(...from);
    this.draw(this.sky, staged, boxes, 2);
  }

  private draw(target: WebGLRenderTarget, staged: Staged, boxes: readonly LightBox[], columns: number): void {
    const { renderer, camera, side } = this;
    const { uEye, uView } = staged.shared;
    const eye = (uEye.value as Vector3).clone();
    const view = (uView.value as Vector3).clone();
    boxes.forEach((box, i) => {
      const at: [number, number, number, number] = [(i % columns) * side, Math.floor(i / columns) * side, side, side];
      target.viewport.set(...at);
      target.scissor.set(...at);
      target.scissorTest = true;
      renderer.setRenderTarget(target);
      renderer.clear();
      Object.assign(camera, { left: -box.half, right: box.half, top: box.half, bottom: -box.half, near: -box.depth, far: box.depth });
      camera.matrixAutoUpdate = false;
      const [r, u, f, c] = [box.right, box.up, box.forward, box.centre];
      camera.matrix.set(r[0], u[0], -f[0], c[0], r[1], u[1], -f[1], c[1], r[2], u[2], -f[2], c[2], 0, 0, 0, 1);
      camera.updateProjectionMatrix();
      camera.updateMatrixWorld(true);
      // Cards turn to the light.
      (uEye.value as Vector3).set(c[0] - f[0] * 1e5, c[1] - f[1] * 1e5, c[2] - f[2] * 1e5);
      (uView.value as Vector3).set(f[0], f[1], f[2]);
      const sides = sidesOf(box);
      staged.show(new Map(staged.casters.filter(({ drawable }) => throwsInto(sides, drawable as Bounds)).map(({ drawable, lod }) => [drawable.key, lod])));
      this.wardrobe.dress(staged.scene, 'SHADOW');
      renderer.render(staged.scene, camera);
      if (staged.people) this.drawPeople(staged.people);
    });
    (uEye.value as Vector3).copy(eye);
    (uView.value as Vector3).copy(view);
  }

  private drawPeople(people: Scene): void {
    const { camera, renderer } = this;
    camera.layers.set(PEOPLE);
    people.overrideMaterial = this.people;
    renderer.render(people, camera);
    people.overrideMaterial = null;
    camera.layers.set(0);
  }

  dispose(): void {
    for (const t of [this.sun, this.sky]) {
      t.depthTexture?.dispose();
      t.dispose();
    }
    this.people.dispose();
  }
}

function depthTarget(width: number, height: number): WebGLRenderTarget {
  const depth = new DepthTexture(width, height, UnsignedIntType);
  depth.compareFunction = LessEqualCompare;
  depth.minFilter = depth.magFilter = LinearFilter;
  return new WebGLRenderTarget(width, height, { format: RedFormat, type: UnsignedByteType, depthTexture: depth, generateMipmaps: false });
}
