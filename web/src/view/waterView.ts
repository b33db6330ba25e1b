import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DataTexture,
  GLSL3,
  LinearFilter,
  Mesh,
  NearestFilter,
  RGFormat,
  ShaderMaterial,
  type Group,
  type IUniform,
} from 'three';
import type { Terrain } from '@rammer/core/earth/compose';
import type { WaterBody } from '@rammer/core/earth/water';
import { SEE_THROUGH } from './layers';
import { WATER_FRAGMENT, WATER_VERTEX } from './shaders/water';

/** Surfaces of water, and the bed under them as a picture of heights in two bytes. */
export class WaterView {
  private meshes = new Map<string, Mesh<BufferGeometry, ShaderMaterial>>();
  private readonly shared: Record<string, IUniform>;
  private readonly bedUniforms = { uBed: { value: new DataTexture(new Uint8Array(2), 1, 1, RGFormat) }, uBedLow: { value: 0 }, uBedHigh: { value: 1 } };

  constructor(
    private readonly group: Group,
    shared: Record<string, IUniform>,
  ) {
    this.shared = shared;
  }

  update(waters: readonly WaterBody[]): void {
    for (const mesh of this.meshes.values()) {
      this.group.remove(mesh);
      mesh.geometry.dispose();
      mesh.material.dispose();
    }
    this.meshes.clear();
    for (const w of waters) {
      if (w.hidden) continue;
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(w.mesh.positions, 3));
      geometry.setIndex(new BufferAttribute(w.mesh.indices, 1));
      const { colour, clarity, foam, waves } = w.look;
      const own = { uDeep: { value: new Color(colour) }, uClarity: { value: clarity }, uFoam: { value: foam }, uWaves: { value: waves } };
      const mesh = new Mesh(
        geometry,
        new ShaderMaterial({
          glslVersion: GLSL3,
          vertexShader: WATER_VERTEX,
          fragmentShader: WATER_FRAGMENT,
          uniforms: { ...this.shared, ...this.bedUniforms, ...own },
        }),
      );
      mesh.frustumCulled = false;
      mesh.layers.set(SEE_THROUGH);
      this.meshes.set(`water/${w.id}`, mesh);
      this.group.add(mesh);
    }
  }

  /** The heights of the bed, only where there is water to look through. */
  setBed(terrain: Terrain, waters: readonly WaterBody[]): void {
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

  show(wanted: { has(key: string): boolean }): void {
    for (const [key, mesh] of this.meshes) mesh.visible = wanted.has(key);
  }

  dispose(): void {
    this.update([]);
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
