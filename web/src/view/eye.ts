import { OrthographicCamera, PerspectiveCamera } from 'three';
import type { Camera } from '@rammer/core/cost/camera';
import { SEE_THROUGH } from './layers';

/** The renderer's eye at a camera of the level's: one for perspective and one for Plan, each kept. */
export class Eye {
  private readonly perspective = new PerspectiveCamera();
  private readonly ortho = new OrthographicCamera();

  constructor() {
    for (const c of [this.perspective, this.ortho]) c.layers.enable(SEE_THROUGH);
  }

  at(camera: Camera): PerspectiveCamera | OrthographicCamera {
    const c = camera.fov === 0 ? this.ortho : this.perspective;
    c.near = camera.near;
    c.far = camera.far;
    if (c === this.ortho) {
      c.top = camera.halfHeight;
      c.bottom = -camera.halfHeight;
      c.right = camera.halfHeight * camera.aspect;
      c.left = -c.right;
    } else {
      this.perspective.fov = camera.fov;
      this.perspective.aspect = camera.aspect;
    }
    c.position.set(...camera.eye);
    c.up.set(...camera.up);
    c.lookAt(camera.eye[0] + camera.forward[0], camera.eye[1] + camera.forward[1], camera.eye[2] + camera.forward[2]);
    c.updateProjectionMatrix();
    c.updateMatrixWorld();
    return c;
  }
}
