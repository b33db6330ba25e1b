import {
  AddEquation,
  Color,
  CustomBlending,
  GLSL3,
  Mesh,
  NormalBlending,
  OneFactor,
  ShaderMaterial,
  Vector2,
  WebGLRenderTarget,
  type Camera,
  type Object3D,
  type Scene,
  type WebGLRenderer,
} from 'three';
import { Quad } from './full/quad';

/** Layer of meshes that are counted, for the eye alone. */
const COUNTED = 7;
/** One layer is so much of a byte of 255: up to 31 of them are told apart. */
const STEP = 8;
/** From how many layers on each colour begins, as the legend has them: lichen, ochre, oxide, ink. */
export const LAYERS = [1, 3, 6, 10] as const;
const COLOURS = [
  [0.39, 0.46, 0.23],
  [0.79, 0.55, 0.11],
  [0.7, 0.25, 0.16],
  [0.09, 0.13, 0.12],
] as const;
/** The same for the legend. */
export const LAYER_COLOURS = COLOURS.map((rgb) => `rgb(${rgb.map((v) => Math.round(v * 255)).join(' ')})`);

const COUNT = /* glsl */ `
precision highp float;
out vec4 outColour;
void main() { outColour = vec4(${(STEP / 255).toFixed(6)}); }
`;
const SHOW = /* glsl */ `
precision highp float;
uniform sampler2D uLayers;
in vec2 vAt;
out vec4 outColour;
void main() {
  float layers = floor(texture(uLayers, vAt * 0.5 + 0.5).r * ${(255 / STEP).toFixed(4)} + 0.5);
  if (layers < 1.0) discard;
  vec3 colour = vec3(${COLOURS[0].join(', ')});
${LAYERS.slice(1)
  .map((from, i) => `  if (layers >= ${from}.0) colour = vec3(${COLOURS[i + 1].join(', ')});`)
  .join('\n')}
  outColour = vec4(colour, 0.82);
}
`;

/** How often plants are shaded over each other, pixel by pixel, over the picture that is on the screen: what is cut out of a leaf costs as well. */
export class Overdraw {
  private readonly counting = new WeakMap<ShaderMaterial, ShaderMaterial>();
  private readonly made = new Set<ShaderMaterial>();
  private target?: WebGLRenderTarget;
  private readonly quad: Quad;

  constructor(private readonly renderer: WebGLRenderer) {
    this.quad = new Quad(SHOW, { uLayers: { value: null } });
    this.quad.material.transparent = true;
    this.quad.material.blending = NormalBlending;
  }

  /** @param grown whether a mesh is of plants */
  paint(scene: Scene, eye: Camera, grown: (mesh: Object3D) => boolean): void {
    const { renderer } = this;
    const size = renderer.getDrawingBufferSize(new Vector2());
    if (!this.target || this.target.width !== size.x || this.target.height !== size.y) {
      this.target?.dispose();
      this.target = new WebGLRenderTarget(size.x, size.y);
    }
    const plants: Mesh<never, ShaderMaterial>[] = [];
    scene.traverseVisible((o) => {
      if (o instanceof Mesh && o.material instanceof ShaderMaterial && grown(o)) plants.push(o as unknown as Mesh<never, ShaderMaterial>);
    });
    // What stands before plants hides them: first the depth of all else.
    const before = renderer.getClearColor(new Color());
    const alpha = renderer.getClearAlpha();
    renderer.setClearColor(0, 0);
    renderer.setRenderTarget(this.target);
    for (const p of plants) p.visible = false;
    renderer.clear();
    renderer.render(scene, eye);
    renderer.clear(true, false, false);
    const own = plants.map((p) => p.material);
    const { mask } = eye.layers;
    eye.layers.set(COUNTED);
    plants.forEach((p, i) => {
      p.visible = true;
      p.layers.enable(COUNTED);
      p.material = this.count(own[i]);
    });
    renderer.render(scene, eye);
    plants.forEach((p, i) => {
      p.layers.disable(COUNTED);
      p.material = own[i];
    });
    eye.layers.mask = mask;
    renderer.setClearColor(before, alpha);
    this.quad.material.uniforms.uLayers.value = this.target.texture;
    this.quad.draw(renderer, null);
  }

  private count(of: ShaderMaterial): ShaderMaterial {
    let found = this.counting.get(of);
    if (!found) {
      found = new ShaderMaterial({
        glslVersion: GLSL3,
        vertexShader: of.vertexShader,
        fragmentShader: COUNT,
        defines: { ...of.defines },
        uniforms: of.uniforms,
        side: of.side,
        transparent: true,
        depthWrite: false,
        blending: CustomBlending,
        blendEquation: AddEquation,
        blendSrc: OneFactor,
        blendDst: OneFactor,
      });
      this.counting.set(of, found);
      this.made.add(found);
    }
    return found;
  }

  dispose(): void {
    this.target?.dispose();
    this.quad.dispose();
    for (const m of this.made) m.dispose();
  }
}
