import { GLSL3, Mesh, PlaneGeometry, Scene, ShaderMaterial, Vector2, Vector3, type IUniform } from 'three';
import type { Camera } from '@rammer/core/cost/camera';
import { tanDeg } from '@rammer/core/num/trig';
import { SKY_FRAGMENT, SKY_VERTEX } from './shaders/sky';

/** The sky, where nothing stands. */
export class Backdrop {
  readonly scene = new Scene();
  private readonly sky: ShaderMaterial;

  constructor(shared: Record<string, IUniform>) {
    this.sky = new ShaderMaterial({
      glslVersion: GLSL3,
      vertexShader: SKY_VERTEX,
      fragmentShader: SKY_FRAGMENT,
      depthWrite: false,
      uniforms: {
        ...shared,
        uForward: { value: new Vector3() },
        uRight: { value: new Vector3() },
        uUp: { value: new Vector3() },
        uTan: { value: new Vector2() },
      },
    });
    const dome = new Mesh(new PlaneGeometry(2, 2), this.sky);
    dome.frustumCulled = false;
    this.scene.add(dome);
  }

  aim(camera: Camera): void {
    const u = this.sky.uniforms;
    (u.uForward.value as Vector3).set(...camera.forward);
    (u.uRight.value as Vector3).set(...camera.right);
    (u.uUp.value as Vector3).set(...camera.up);
    const t = tangent(camera);
    (u.uTan.value as Vector2).set(t * camera.aspect, t);
  }
}

/** Half the height of the picture at a metre from the eye; next to nothing in Plan, which looks straight down all over. */
export const tangent = (camera: Camera): number => (camera.fov === 0 ? 0.01 : tanDeg(camera.fov / 2));
