import { meshArea, type Asset, type Primitive } from '../asset';
import { lookOf, TEXTURE_SLOTS, type AssetMaterial, type AssetTexture } from '../material';

/** Whether a material can be said in the colours of vertices: it wears nothing and lets nothing through. */
const bare = (m: AssetMaterial): boolean => Object.keys(m.textures).length === 0 && m.alpha === 'opaque';
/** What two bare ones must share to become one. */
const group = (m: AssetMaterial): string => JSON.stringify([m.doubleSided, m.unlit, m.emission, m.ior, m.specular, m.specularColour]);

/** How unlike two materials are; 0 draws the same. */
function unlike(a: AssetMaterial, b: AssetMaterial): number {
  if (lookOf(a) === lookOf(b)) return 0;
  const shine = Math.abs(a.roughness - b.roughness) + Math.abs(a.metalness - b.metalness);
  // Colours of bare ones go into the vertices: only their shine is lost.
  if (bare(a) && bare(b) && group(a) === group(b)) return 0.01 + shine * 0.2;
  const colour = a.baseColour.reduce((s, v, k) => s + Math.abs(v - b.baseColour[k]), 0);
  const worn = TEXTURE_SLOTS.reduce((n, slot) => n + (a.textures[slot]?.texture === b.textures[slot]?.texture ? 0 : 1), 0);
  return 1 + colour + shine + worn * 2 + (a.alpha === b.alpha ? 0 : 6) + (a.unlit === b.unlit ? 0 : 3);
}

/**
 * Materials that are nearest to each other become one until so many are left, the one with the larger area staying. Colours of
 * bare ones go into the vertices, so that nothing of them is lost.
 */
export function mergeMaterials(asset: Asset, to: number): Asset {
  if (!asset.materials) return asset;
  let out = asset;
  for (;;) {
    const worn = [...new Set(out.lods.flat().map((p) => p.look!))];
    if (worn.length <= to) break;
    const area = new Map(worn.map((at) => [at, out.lods[0].filter((p) => p.look === at).reduce((s, p) => s + meshArea(p), 0)]));
    let best: { keep: number; drop: number; cost: number } | undefined;
    for (const [i, a] of worn.entries())
      for (const b of worn.slice(i + 1)) {
        const cost = unlike(out.materials![a], out.materials![b]) * (1 + Math.min(area.get(a)!, area.get(b)!));
        const [keep, drop] = area.get(a)! >= area.get(b)! ? [a, b] : [b, a];
        if (!best || cost < best.cost) best = { keep, drop, cost };
      }
    out = joinLooks(out, best!.keep, best!.drop, area);
  }
  return tidyMaterials(out);
}

function joinLooks(asset: Asset, keep: number, drop: number, area: ReadonlyMap<number, number>): Asset {
  const materials = [...asset.materials!];
  const [a, b] = [materials[keep], materials[drop]];
  if (lookOf(a) === lookOf(b) || !(bare(a) && bare(b) && group(a) === group(b)))
    return { ...asset, lods: asset.lods.map((lod) => lod.map((p) => (p.look === drop ? wearing(p, keep, a) : p))) };
  const [wa, wb] = [area.get(keep)!, area.get(drop)!];
  const mean = (x: number, y: number) => (wa + wb > 0 ? (x * wa + y * wb) / (wa + wb) : x);
  materials[keep] = { ...a, baseColour: [1, 1, 1, 1], roughness: mean(a.roughness, b.roughness), metalness: mean(a.metalness, b.metalness) };
  return {
    ...asset,
    materials,
    lods: asset.lods.map((lod) =>
      lod.map((p) => (p.look === keep ? coloured(p, keep, a) : p.look === drop ? { ...coloured(p, keep, b), material: a.name } : p)),
    ),
  };
}

/** A primitive with its material's colour in its vertices. */
function coloured(p: Primitive, look: number, { baseColour }: AssetMaterial): Primitive {
  const colours = p.colours?.slice() ?? new Float32Array((p.positions.length / 3) * 4).fill(1);
  for (let i = 0; i < colours.length; i++) colours[i] *= baseColour[i % 4];
  return { ...p, look, colours };
}

const wearing = (p: Primitive, look: number, { name, alpha }: AssetMaterial): Primitive => ({ ...p, look, material: name, alphaTested: alpha === 'mask' });

/** What wears one material wears another; one that nobody wears is left out. Names that are not there change nothing. */
export function setSlot(asset: Asset, from: string, to: string): Asset {
  const [a, b] = [from, to].map((name) => asset.materials?.findIndex((m) => m.name === name) ?? -1);
  if (a < 0 || b < 0 || a === b) return asset;
  return tidyMaterials({ ...asset, lods: asset.lods.map((lod) => lod.map((p) => (p.look === a ? wearing(p, b, asset.materials![b]) : p))) });
}

/** Leaves out materials and pictures nobody wears, and joins primitives of one material: one draw each. */
export function tidyMaterials(asset: Asset): Asset {
  if (!asset.materials) return asset;
  const worn = [...new Set(asset.lods.flat().map((p) => p.look!))].sort((x, y) => x - y);
  const place = new Map(worn.map((at, i) => [at, i]));
  const textures: AssetTexture[] = [];
  const pictures = new Map<number, number>();
  const materials = worn.map((at): AssetMaterial => {
    const m = asset.materials![at];
    const kept: AssetMaterial['textures'] = {};
    for (const slot of TEXTURE_SLOTS) {
      const use = m.textures[slot];
      if (!use) continue;
      if (!pictures.has(use.texture)) pictures.set(use.texture, textures.push(asset.textures![use.texture]) - 1);
      kept[slot] = { ...use, texture: pictures.get(use.texture)! };
    }
    return { ...m, textures: kept };
  });
  const distant = asset.distant && { ...asset.distant, normals: textures.push(asset.textures![asset.distant.normals]) - 1 };
  return {
    ...asset,
    ...(distant ? { distant } : {}),
    materials,
    textures,
    textureBytes: textures.reduce((s, t) => s + t.gpuBytes, 0),
    lods: asset.lods.map((lod) => joinPrimitives(lod.map((p) => ({ ...p, look: place.get(p.look!)! })))),
  };
}

/** Primitives of one material and the same streams as one each. */
export function joinPrimitives(lod: readonly Primitive[]): Primitive[] {
  const groups = new Map<string, Primitive[]>();
  for (const p of lod) {
    const key = `${p.look} ${!!p.uvs} ${!!p.uvs1} ${!!p.tangents}`;
    groups.set(key, [...(groups.get(key) ?? []), p]);
  }
  return [...groups.values()].map((list) => (list.length === 1 ? list[0] : joinAll(list)));
}

function joinAll(list: readonly Primitive[]): Primitive {
  const coloursOf = (p: Primitive) => p.colours ?? new Float32Array((p.positions.length / 3) * 4).fill(1);
  const all = (of: (p: Primitive) => Float32Array | undefined): Float32Array | undefined => {
    const parts = list.map(of);
    if (parts.some((part) => !part)) return undefined;
    const out = new Float32Array(parts.reduce((s, part) => s + part!.length, 0));
    parts.reduce((at, part) => (out.set(part!, at), at + part!.length), 0);
    return out;
  };
  const indices = new Uint32Array(list.reduce((s, p) => s + p.indices.length, 0));
  let [at, vertex] = [0, 0];
  for (const p of list) {
    for (const i of p.indices) indices[at++] = vertex + i;
    vertex += p.positions.length / 3;
  }
  const [tangents, uvs, uvs1] = [all((p) => p.tangents), all((p) => p.uvs), all((p) => p.uvs1)];
  return {
    ...list[0],
    positions: all((p) => p.positions)!,
    normals: all((p) => p.normals)!,
    indices,
    ...(list.some((p) => p.colours) ? { colours: all(coloursOf)! } : {}),
    ...(tangents ? { tangents } : {}),
    ...(uvs ? { uvs } : {}),
    ...(uvs1 ? { uvs1 } : {}),
  };
}
