import { Mesh, ShaderMaterial, type IUniform, type Object3D } from 'three';

/** What a scene is drawn for: light in full, or nothing but depth for a shadow. */
export type Dress = 'FULL' | 'SHADOW';

interface Made {
  material: ShaderMaterial;
  version: number;
}

/** The materials of the level as the full picture wants them: the same shaders by other defines, sharing their uniforms. */
export class Wardrobe {
  private readonly made: Record<Dress, WeakMap<ShaderMaterial, Made>> = { FULL: new WeakMap(), SHADOW: new WeakMap() };
  private readonly plain = new WeakMap<ShaderMaterial, ShaderMaterial>();
  private readonly all = new Set<ShaderMaterial>();

  constructor(private readonly uniforms: Record<string, IUniform>) {}

  /** Every visible mesh in the dress asked for; `undefined` as it came. */
  dress(scene: Object3D, as: Dress | undefined): void {
    scene.traverseVisible((o) => {
      if (!(o instanceof Mesh) || !(o.material instanceof ShaderMaterial)) return;
      const own = this.plain.get(o.material) ?? o.material;
      o.material = as ? this.of(own, as) : own;
    });
  }

  private of(own: ShaderMaterial, as: Dress): ShaderMaterial {
    const known = this.made[as].get(own);
    if (known && known.version === own.version) return known.material;
    if (known) this.drop(known.material);
    const material = new ShaderMaterial({
      glslVersion: own.glslVersion,
      vertexShader: own.vertexShader,
      fragmentShader: own.fragmentShader,
      defines: { ...own.defines, [as]: '' },
      uniforms: { ...own.uniforms, ...this.uniforms },
      side: own.side,
      transparent: own.transparent,
      depthWrite: own.depthWrite,
      colorWrite: as === 'FULL',
      // A face must not lie in its own shadow for want of digits.
      polygonOffset: as === 'SHADOW',
      polygonOffsetFactor: 1.5,
      polygonOffsetUnits: 2,
    });
    // Pictures that were let go are asked for again by the one it came from.
    material.onBeforeRender = (...args) => {
      own.onBeforeRender(...args);
      // What the mesh set of its own stays to be sent.
      if (own.uniformsNeedUpdate) material.uniformsNeedUpdate = true;
    };
    if (!known)
      own.addEventListener('dispose', () => {
        const last = this.made[as].get(own);
        if (last) this.drop(last.material);
        this.made[as].delete(own);
      });
    this.made[as].set(own, { material, version: own.version });
    this.plain.set(material, own);
    this.all.add(material);
    return material;
  }

  private drop(material: ShaderMaterial): void {
    material.dispose();
    this.all.delete(material);
  }

  dispose(): void {
    for (const m of this.all) m.dispose();
    this.all.clear();
  }
}
