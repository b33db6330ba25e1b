import { GLSL3, Mesh, OrthographicCamera, PlaneGeometry, Scene, ShaderMaterial, type IUniform, type WebGLRenderer, type WebGLRenderTarget } from 'three';
import { QUAD_VERTEX } from '../shaders/full/passes';

const PLANE = new PlaneGeometry(2, 2);
const EYE = new OrthographicCamera();

/** A pass over all pixels of a target. */
export class Quad {
  readonly material: ShaderMaterial;
  private readonly scene = new Scene();

  constructor(fragmentShader: string, uniforms: Record<string, IUniform>, options: { depth?: boolean; defines?: Record<string, number | string> } = {}) {
    this.material = new ShaderMaterial({
      glslVersion: GLSL3,
      vertexShader: QUAD_VERTEX,
      fragmentShader,
      uniforms,
      defines: { ...options.defines },
      depthTest: options.depth === true,
      depthWrite: options.depth === true,
    });
    if (options.depth) this.material.depthFunc = 1; // always
    const mesh = new Mesh(PLANE, this.material);
    mesh.frustumCulled = false;
    this.scene.add(mesh);
  }

  draw(renderer: WebGLRenderer, target: WebGLRenderTarget | null): void {
    renderer.setRenderTarget(target);
    renderer.render(this.scene, EYE);
  }

  dispose(): void {
    this.material.dispose();
  }
}
