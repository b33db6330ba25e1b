import { BufferAttribute, BufferGeometry, DataTexture, GLSL3, LinearFilter, Mesh, NearestFilter, RGFormat, ShaderMaterial, type Group, type IUniform } from 'three';
import type { Terrain } from '@rammer/core/earth/compose';
import type { Water } from '@rammer/core/level/objects';
import { WATER_FRAGMENT, WATER_VERTEX } from './shaders';

/** Water planes, and the bed under them as a picture of heights in two bytes. */
export class WaterView {
  private meshes = new Map<string, Mesh<BufferGeometry, ShaderMaterial>>();
  private readonly material: ShaderMaterial;
  private readonly bedUniforms = { uBed: { value: new DataTexture(new Uint8Array(2), 1, 1, RGFormat) }, uBedLow: { value: 0 }, uBedHigh: { value: 1 } };

  constructor(private readonly group: Group, shared: Record<string, IUniform>) {
    this.material = new ShaderMaterial({ glslVersion: GLSL3, vertexShader: WATER_VERTEX, fragmentShader: WATER_FRAGMENT, uniforms: { ...shared, ...this.bedUniforms } });
  }

  update(waters: readonly Water[]): void {
    for (const mesh of this.meshes.values()) {
      this.group.remove(mesh);
      mesh.geometry.dispose();
    }
    this.meshes.clear();
    for (const w of waters) {
      if (w.hidden) continue;
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(Float32Array.from([w.x0, w.height, w.z0, w.x0, w.height, w.z1, w.x1, w.height, w.z1, w.x1, w.height, w.z0]), 3));
      geometry.setIndex([0, 1, 2, 0, 2, 3]);
      const mesh = new Mesh(geometry, this.material);
      mesh.frustumCulled = false;
      this.meshes.set(`water/${w.id}`, mesh);
      this.group.add(mesh);
    }
  }

  /** The heights of the bed, only where there is water to look through. */
  setBed(terrain: Terrain, waters: readonly Water[]): void {
    if (waters.length === 0) return;
    const { nx, nz } = terrain.grid;
    let low = Infinity;
    let high = -Infinity;
    for (const h of terrain.heights) {
      if (h < low) low = h;
      if (h > high) high = h;
    }
    const data = new Uint8Array(nx * nz * 2);
    const range = Math.max(high - low, 0.01);
    for (let i = 0; i < terrain.heights.length; i++) {
      const v = Math.round(((terrain.heights[i] - low) / range) * 65535);
      data[i * 2] = v >> 8;
      data[i * 2 + 1] = v & 255;
    }
    this.bedUniforms.uBed.value.dispose();
    const bed = new DataTexture(data, nx, nz, RGFormat);
    bed.magFilter = bed.minFilter = NearestFilter;
    bed.unpackAlignment = 1;
    bed.needsUpdate = true;
    this.bedUniforms.uBed.value = bed;
    this.bedUniforms.uBedLow.value = low;
    this.bedUniforms.uBedHigh.value = high;
  }

  show(wanted: ReadonlySet<string>): void {
    for (const [key, mesh] of this.meshes) mesh.visible = wanted.has(key);
  }

  dispose(): void {
    this.update([]);
    this.material.dispose();
    this.bedUniforms.uBed.value.dispose();
  }
}

/** A picture over the whole level in plan, `channels` bytes a sample. */
export function levelTexture(data: Uint8Array, nx: number, nz: number, channels: 2 | 4): DataTexture {
  const texture = channels === 2 ? new DataTexture(data, nx, nz, RGFormat) : new DataTexture(data, nx, nz);
  texture.magFilter = texture.minFilter = LinearFilter;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  return texture;
}
