import { Document, Format, WebIO, type Node } from '@gltf-transform/core';
import { EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import { splitBlocks, type BuiltBlock } from '../block/build';
import { blockSolid, faceNormal, levelToBlock, solidTriangles } from '../block/solid';
import type { LevelParts } from '../scene/parts';
import { coatsOf } from '../coat/coats';
import type { Terrain } from '../earth/compose';
import { assetsOfSpecies, meshOf } from '../growth/meshes';
import { PLANT_STRIDE } from '../growth/plants';
import type { Asset } from '../kit/asset';
import { assetOf, meshKey } from '../kit/bentAsset';
import { colliderShapes } from '../kit/mend/colliders';
import { colliderOf } from '../kit/placement';
import { presentBlocks, presentPieces, settingsOf, type Level } from '../level/level';
import type { Block, Paint } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { cross, length, normalize, sub, type Vec3 } from '../num/vec';
import { AssetMeshWriter } from './assetGlb';
import { withCodecs } from './assets/codecs';
import { glbStream, joined, streamedTerrain, type GlbStream } from './glbStream';
import type { Quaternion } from '../num/pose';
import { leanOf, poseRotation } from './rotation';

export interface GlbOptions {
  /** blocks that are meshes, see block/build; a level with voids or shapes needs them */
  built?: readonly BuiltBlock[];
  /** pieces, plants and waters to write too; left out, only terrain and blocks are */
  parts?: Pick<LevelParts, 'assets' | 'grown' | 'species'> & Partial<Pick<LevelParts, 'waters'>>;
  /** one node a kind with EXT_mesh_gpu_instancing, else one node a piece and plant. Default false */
  instanced?: boolean;
}

/** A place of an instance: metres, a unit quaternion (x, y, z, w) and a scale. */
interface Pose {
  name: string;
  at: Vec3;
  rotation: Quaternion;
  scale: Vec3;
  /** of coats, of a piece */
  paint?: Paint;
}

/**
 * The level as binary glTF 2.0: metres, Y up, one node a block by its name, those of a group under a node
 * of its name, and one for the terrain; pieces and plants at their finest LOD. Poses are stored, never baked into the meshes.
 *
 * Coats are told and not baked: the scene's `extras.coats`, of a painted piece its node's `extras.paint`, see docs/format.
 *
 * A block's node stands at the centre of its base with its turn; its mesh has its real dimensions,
 * never a scale. The origin is the level's.
 */
export async function levelToGlb(level: Level, terrain: Terrain, options: GlbOptions = {}): Promise<Uint8Array> {
  return joined(await levelGlbStream(level, terrain, options));
}

/** The same in pieces: a level of 4,097 samples a side is 800 MB of terrain. */
export async function levelGlbStream(level: Level, terrain: Terrain, { parts, built = [], instanced = false }: GlbOptions = {}): Promise<GlbStream> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Rammer';
  const buffer = document.createBuffer();
  const settings = settingsOf(level);
  const scene = document.createScene(settings.name);
  document.getRoot().setDefaultScene(scene);
  const ground = document.createMaterial('ground').setBaseColorFactor([0.35, 0.36, 0.27, 1]).setRoughnessFactor(1).setMetallicFactor(0);
  const blockout = document.createMaterial('blockout').setBaseColorFactor([0.68, 0.65, 0.57, 1]).setRoughnessFactor(1).setMetallicFactor(0);
  const accessor = (type: 'VEC2' | 'VEC3' | 'VEC4' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const groups = new Map<string, Node>();
  const add = (
    name: string,
    material: typeof ground,
    { positions, normals, indices }: { positions: Float32Array; normals: Float32Array; indices: Uint32Array },
    { pose, group }: { pose?: Pick<Block, 'at' | 'turn' | 'tilt'>; group?: string } = {},
  ) => {
    const primitive = document
      .createPrimitive()
      .setMaterial(material)
      .setAttribute('POSITION', accessor('VEC3', positions))
      .setAttribute('NORMAL', accessor('VEC3', normals))
      .setIndices(accessor('SCALAR', indices));
    const node = document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive));
    if (pose) node.setTranslation(pose.at).setRotation(poseRotation(pose));
    if (!group) {
      scene.addChild(node);
      return;
    }
    let parent = groups.get(group);
    if (!parent) {
      groups.set(group, (parent = document.createNode(group)));
      scene.addChild(parent);
    }
    parent.addChild(node);
  };

  // The first mesh of the document: its values come in the stream.
  add('terrain', ground, { positions: new Float32Array(9), normals: new Float32Array(9), indices: Uint32Array.of(0, 1, 2) });
  const { plain, special } = splitBlocks(presentBlocks(level));
  for (const { block } of special) {
    const mesh = built.find((b) => b.id === block.id);
    if (!mesh) throw new Error(`block ${block.name} has no mesh`);
    if (mesh.indices.length === 0) continue;
    add(block.name, blockout, flatMesh(mesh, block), { pose: block, group: block.group });
  }
  for (const block of plain) add(block.name, blockout, blockMesh(block), { pose: block, group: block.group });
  const io = await withCodecs(new WebIO(), {});
  const streamed = async (): Promise<GlbStream> => {
    const { json, resources } = await io.writeJSON(document, { format: Format.GLB });
    const { attributes, indices } = json.meshes![0].primitives[0];
    return glbStream(
      json,
      Object.values(resources)[0],
      streamedTerrain(terrain, { positions: attributes.POSITION, normals: attributes.NORMAL, indices: indices! }),
    );
  };
  if (!parts) return streamed();

  for (const w of parts.waters ?? []) {
    const [red, green, blue] = [1, 3, 5].map((i) => parseInt(w.look.colour.slice(i, i + 2), 16) / 255);
    const water = document
      .createMaterial(`water ${w.name}`)
      .setBaseColorFactor([red, green, blue, 0.7])
      .setAlphaMode('BLEND')
      .setRoughnessFactor(0.1)
      .setMetallicFactor(0);
    const { positions, indices } = w.mesh;
    const normals = Float32Array.from(positions, (_, i) => (i % 3 === 1 ? 1 : 0));
    if (indices.length > 0) add(w.name, water, { positions: Float32Array.from(positions), normals, indices: Uint32Array.from(indices) });
  }
  const coats = coatsOf(level);
  if (coats.length > 0) scene.setExtras({ coats });
  const writer = new AssetMeshWriter(document, true);
  const instancing = instanced ? document.createExtension(EXTMeshGPUInstancing).setRequired(true) : undefined;
  for (const { name, asset, poses } of posesOf(level, parts)) {
    const shared = writer.mesh(asset.name, asset.lods[0], asset);
    // A piece that is painted is a node of its own: its paint is told with it.
    const own = instancing ? poses.filter((p) => p.paint) : poses;
    const together = instancing ? poses.filter((p) => !p.paint) : [];
    if (instancing && together.length > 0) {
      const batch = instancing
        .createInstancedMesh()
        .setAttribute('TRANSLATION', accessor('VEC3', Float32Array.from(together.flatMap((p) => p.at))))
        .setAttribute('ROTATION', accessor('VEC4', Float32Array.from(together.flatMap((p) => p.rotation))))
        .setAttribute('SCALE', accessor('VEC3', Float32Array.from(together.flatMap((p) => p.scale))));
      scene.addChild(document.createNode(name).setMesh(shared).setExtension('EXT_mesh_gpu_instancing', batch));
    }
    for (const p of own) {
      const node = document.createNode(p.name).setMesh(shared).setTranslation(p.at).setRotation(p.rotation).setScale(p.scale);
      if (p.paint) node.setExtras({ paint: p.paint });
      scene.addChild(node);
    }
  }
  writeColliders(document, level, parts.assets, writer);
  return streamed();
}

/** What stops a body, as a scene beside the level: a node a piece, its shapes the parts of one mesh; nothing of it is drawn. */
function writeColliders(document: Document, level: Level, assets: LevelParts['assets'], writer: AssetMeshWriter): void {
  const meshes = new Map<string, ReturnType<AssetMeshWriter['bare']>>();
  const nodes: Node[] = [];
  for (const piece of presentPieces(level)) {
    const asset = assetOf(assets, piece);
    const kind = asset && colliderOf(piece, asset);
    if (!asset || kind === undefined || kind === 'none') continue;
    const key = `${meshKey(piece)} ${kind}`;
    const mesh = meshes.get(key) ?? writer.bare(`${asset.name} ${kind} collider`, colliderShapes(asset, kind));
    meshes.set(key, mesh);
    const { at, scale = [1, 1, 1] } = piece;
    nodes.push(document.createNode(`${piece.name} collider`).setMesh(mesh).setTranslation(at).setRotation(poseRotation(piece)).setScale(scale));
  }
  if (nodes.length === 0) return;
  const scene = document.createScene('colliders');
  for (const node of nodes) scene.addChild(node);
}

/** Where pieces and plants stand, by kind. */
export function posesOf(level: Level, parts: Pick<LevelParts, 'assets' | 'grown' | 'species'>): { name: string; asset: Asset; poses: Pose[] }[] {
  const out: { name: string; asset: Asset; poses: Pose[] }[] = [];
  const byMesh = new Map<string, { asset: Asset; poses: Pose[] }>();
  for (const piece of presentPieces(level)) {
    const asset = assetOf(parts.assets, piece);
    if (!asset) continue;
    const key = meshKey(piece);
    const { poses } = byMesh.get(key) ?? byMesh.set(key, { asset, poses: [] }).get(key)!;
    poses.push({
      name: piece.name,
      at: piece.at,
      rotation: poseRotation(piece),
      scale: piece.scale ?? [1, 1, 1],
      ...(piece.paint ? { paint: piece.paint } : {}),
    });
  }
  for (const { asset, poses } of byMesh.values()) out.push({ name: asset.name, asset, poses });
  for (const plants of parts.grown) {
    const species = parts.species.find((s) => s.id === plants.species);
    if (!species) continue;
    assetsOfSpecies(species, parts.assets).forEach((asset, mesh) => {
      const mine = Array.from({ length: plants.count }, (_, i) => i).filter((i) => meshOf(plants, i) === mesh);
      if (!asset || mine.length === 0) return;
      const poses = mine.map((i): Pose => {
        const [x, y, z, turn, tall, wide, lean, leanTo, deep] = plants.place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE);
        return { name: `${species.name} ${i + 1}`, at: [x, y, z], rotation: leanOf(lean, leanTo, turn), scale: [wide, tall, deep] };
      });
      out.push({ name: mesh === 0 ? species.name : `${species.name} ${asset.name}`, asset, poses });
    });
  }
  return out;
}

/** A mesh with a normal a triangle, in the axes of the block it is. */
function flatMesh(
  { positions: p, indices }: Mesh,
  block: Pick<Block, 'at' | 'turn' | 'tilt'>,
): { positions: Float32Array; normals: Float32Array; indices: Uint32Array } {
  const positions: number[] = [];
  const normals: number[] = [];
  const out: number[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => levelToBlock(block, [p[indices[i + k] * 3], p[indices[i + k] * 3 + 1], p[indices[i + k] * 3 + 2]]));
    const n = cross(sub(b, a), sub(c, a));
    // A sliver that float32 made flat has no normal and shows nothing.
    if (length(n) < 1e-12) continue;
    for (const corner of [a, b, c]) {
      out.push(positions.length / 3);
      positions.push(...corner);
      normals.push(...normalize(n));
    }
  }
  return { positions: Float32Array.from(positions), normals: Float32Array.from(normals), indices: Uint32Array.from(out) };
}

/** A block's mesh about the centre of its base, unturned, flat shaded. */
function blockMesh(block: Block): { positions: Float32Array; normals: Float32Array; indices: Uint32Array } {
  const solid = blockSolid({ shape: block.shape, size: block.size, at: [0, 0, 0], turn: 0 });
  const positions: number[] = [];
  const normals: number[] = [];
  for (const face of solid.faces) {
    const n = faceNormal(solid, face);
    for (const i of solidTriangles({ corners: solid.corners, faces: [face] })) {
      positions.push(...solid.corners[i]);
      normals.push(...n);
    }
  }
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    indices: Uint32Array.from(
      positions.filter((_, i) => i % 3 === 0),
      (_, i) => i,
    ),
  };
}
