import {
  BufferAttribute,
  BufferGeometry,
  DataTexture,
  GLSL3,
  LinearFilter,
  Mesh,
  RGBAFormat,
  ShaderMaterial,
  Vector2,
  type DataArrayTexture,
  type Group,
  type IUniform,
} from 'three';
import type { Rect, Terrain } from '@rammer/core/earth/compose';
import { TERRAIN_LOD_STRIDES, terrainIndices, terrainPositions, terrainVertexCount, tileNormals } from '@rammer/core/earth/mesh';
import type { Vec3 } from '@rammer/core/num/vec';
import { TILE_QUADS, TILE_SIDE } from '@rammer/core/level/tiles';
import type { GroundRaster } from '@rammer/core/surface/ground';
import { sharePictures, type SharePictures } from '@rammer/core/surface/shares';
import { paletteUniforms, sharesTexture, type Look } from './look';
import { TERRAIN_FRAGMENT, TERRAIN_VERTEX } from './shaders/terrain';

interface TileView {
  tx: number;
  tz: number;
  mesh: Mesh<BufferGeometry, ShaderMaterial>;
  uniforms: Record<string, IUniform>;
  /** by their defines, made when first drawn */
  materials: Map<string, ShaderMaterial>;
  /** geometry of each LOD, made when first drawn; stale ones are written again before drawing */
  lods: (BufferGeometry | undefined)[];
  stale: boolean[];
  light: DataTexture;
  lightStale: boolean;
  /** shares of the surfaces that occur in it, and their textures by channel */
  shares: SharePictures;
}

/**
 * The terrain as one mesh a tile. Geometry of a LOD is made when that LOD is first drawn and written
 * again only when its heights changed; normals and light are a 65 x 65 texture a tile (bytes: normal
 * x, normal z, sun, sky), so that coarse geometry still shows fine ground.
 */
export class TerrainView {
  private tiles = new Map<string, TileView>();
  private indices = TERRAIN_LOD_STRIDES.map((_, lod) => new BufferAttribute(terrainIndices(lod), 1));
  private skirt = 3;
  /** defines of what is shown on the ground besides it: TOO_STEEP what is too steep, PICTURED a picture, CONTOURS, WIRES */
  overlays: readonly string[] = [];

  constructor(
    private readonly group: Group,
    private terrain: Terrain,
    private ground: GroundRaster,
    private readonly look: Look,
  ) {
    this.build();
  }

  private build(): void {
    const { grid } = this.terrain;
    const side = TILE_QUADS * grid.spacing;
    let low = Infinity;
    for (const h of this.terrain.heights) if (h < low) low = h;
    this.skirt = Math.max(3, grid.spacing * 8);
    for (let tz = 0; tz < grid.tilesZ; tz++) {
      for (let tx = 0; tx < grid.tilesX; tx++) {
        const data = new Uint8Array(TILE_SIDE * TILE_SIDE * 4);
        for (let i = 0; i < data.length; i += 4) data[i + 2] = data[i + 3] = 255;
        const light = new DataTexture(data, TILE_SIDE, TILE_SIDE, RGBAFormat);
        light.magFilter = light.minFilter = LinearFilter;
        const shares: SharePictures = { palette: [], count: 0, data: new Uint8Array(0) };
        const uniforms = {
          ...this.look.uniforms,
          ...paletteUniforms(),
          uTile: { value: light },
          uShares: { value: null as DataArrayTexture | null },
          uOrigin: { value: new Vector2(tx * side, tz * side) },
          uSide: { value: side },
        };
        const mesh = new Mesh<BufferGeometry, ShaderMaterial>();
        mesh.frustumCulled = false;
        mesh.visible = false;
        mesh.matrixAutoUpdate = false;
        this.group.add(mesh);
        this.tiles.set(`terrain/${tx},${tz}`, { tx, tz, mesh, uniforms, materials: new Map(), lods: [], stale: [], light, lightStale: true, shares });
      }
    }
    this.setGround(this.ground);
  }

  /** New shares of the surfaces, of a rectangle of samples or all. */
  setGround(ground: GroundRaster, rect: Rect = { x0: 0, z0: 0, x1: ground.grid.nx - 1, z1: ground.grid.nz - 1 }): void {
    this.ground = ground;
    for (const tile of this.tiles.values()) {
      const [x0, z0] = [tile.tx * TILE_QUADS, tile.tz * TILE_QUADS];
      if (rect.x1 < x0 || rect.x0 > x0 + TILE_QUADS || rect.z1 < z0 || rect.z0 > z0 + TILE_QUADS) continue;
      const old = tile.shares;
      tile.shares = sharePictures(ground, { x0, z0, x1: x0 + TILE_QUADS, z1: z0 + TILE_QUADS }, false, old.palette);
      const texture = tile.uniforms.uShares.value as DataArrayTexture | null;
      if (texture && tile.shares.count === old.count) {
        texture.image.data = tile.shares.data;
        texture.needsUpdate = true;
      } else {
        texture?.dispose();
        tile.uniforms.uShares.value = sharesTexture(tile.shares.data, TILE_SIDE, TILE_SIDE, tile.shares.count);
      }
      if (tile.shares.palette.join() !== old.palette.join()) this.look.setPalette(tile.uniforms, tile.shares.palette, tile.shares.count);
    }
  }

  /** Surfaces have other textures, sizes or tints. */
  refreshPalettes(): void {
    for (const tile of this.tiles.values()) this.look.setPalette(tile.uniforms, tile.shares.palette, tile.shares.count);
  }

  /** Heights changed; `terrain` may be a new object of the same or another size. */
  update(terrain: Terrain, ground: GroundRaster, rect: Rect): void {
    const sameSize = terrain.grid.nx === this.terrain.grid.nx && terrain.grid.nz === this.terrain.grid.nz && terrain.grid.spacing === this.terrain.grid.spacing;
    this.terrain = terrain;
    this.ground = ground;
    if (!sameSize) {
      this.dispose();
      this.build();
      return;
    }
    for (const tile of this.tiles.values()) {
      // One sample beyond the rectangle, because normals look at their neighbours.
      const x0 = tile.tx * TILE_QUADS - 1;
      const z0 = tile.tz * TILE_QUADS - 1;
      if (rect.x1 < x0 || rect.z1 < z0 || rect.x0 > x0 + TILE_QUADS + 2 || rect.z0 > z0 + TILE_QUADS + 2) continue;
      tile.stale = tile.lods.map(() => true);
      tile.lightStale = true;
    }
  }

  /** New sunlight: two bytes a sample over the rectangle. */
  setLight(rect: Rect, light: Uint8Array): void {
    const w = rect.x1 - rect.x0 + 1;
    for (const tile of this.tiles.values()) {
      const data = tile.light.image.data as Uint8Array;
      let any = false;
      for (let z = 0; z < TILE_SIDE; z++) {
        const sz = tile.tz * TILE_QUADS + z;
        if (sz < rect.z0 || sz > rect.z1) continue;
        for (let x = 0; x < TILE_SIDE; x++) {
          const sx = tile.tx * TILE_QUADS + x;
          if (sx < rect.x0 || sx > rect.x1) continue;
          const from = ((sz - rect.z0) * w + sx - rect.x0) * 2;
          const to = (z * TILE_SIDE + x) * 4;
          data[to + 2] = light[from];
          data[to + 3] = light[from + 1];
          any = true;
        }
      }
      if (any) tile.light.needsUpdate = true;
    }
  }

  private material(tile: TileView, quick: boolean): ShaderMaterial {
    const defines = { PICTURES: tile.shares.count, ...(quick ? { QUICK: '' } : {}), ...Object.fromEntries(this.overlays.map((r) => [r, ''])) };
    const key = JSON.stringify(defines);
    let found = tile.materials.get(key);
    if (!found)
      tile.materials.set(
        key,
        (found = new ShaderMaterial({ defines, glslVersion: GLSL3, vertexShader: TERRAIN_VERTEX, fragmentShader: TERRAIN_FRAGMENT, uniforms: tile.uniforms })),
      );
    return found;
  }

  /**
   * Shows exactly the given tiles at the given LODs, the nearest first, so that what hills hide is not shaded.
   *
   * @param quick with fewer surfaces mixed at a place, for a view in motion on a slow machine
   */
  show(wanted: ReadonlyMap<string, number>, eye: Vec3, quick: boolean): void {
    const half = (TILE_QUADS * this.terrain.grid.spacing) / 2;
    for (const [key, tile] of this.tiles) {
      const lod = wanted.get(key);
      tile.mesh.visible = lod !== undefined;
      if (lod === undefined) continue;
      tile.mesh.material = this.material(tile, quick);
      tile.mesh.renderOrder = Math.hypot((tile.tx * 2 + 1) * half - eye[0], (tile.tz * 2 + 1) * half - eye[2]);
      if (!tile.lods[lod]) {
        const geometry = new BufferGeometry();
        geometry.setAttribute('position', new BufferAttribute(new Float32Array(terrainVertexCount(lod) * 3), 3));
        geometry.setIndex(this.indices[lod]);
        tile.lods[lod] = geometry;
        tile.stale[lod] = true;
      }
      if (tile.stale[lod]) {
        const position = tile.lods[lod]!.getAttribute('position') as BufferAttribute;
        terrainPositions(this.terrain, [tile.tx, tile.tz], lod, this.skirt, position.array as Float32Array);
        position.needsUpdate = true;
        tile.stale[lod] = false;
      }
      if (tile.lightStale) {
        tileNormals(this.terrain, tile.tx, tile.tz, tile.light.image.data as Uint8Array, 4);
        tile.light.needsUpdate = true;
        tile.lightStale = false;
      }
      tile.mesh.geometry = tile.lods[lod]!;
    }
  }

  dispose(): void {
    for (const tile of this.tiles.values()) {
      this.group.remove(tile.mesh);
      for (const g of tile.lods) g?.dispose();
      for (const m of tile.materials.values()) m.dispose();
      tile.light.dispose();
      (tile.uniforms.uShares.value as DataArrayTexture | null)?.dispose();
    }
    this.tiles.clear();
  }
}
