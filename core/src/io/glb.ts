import { Document, WebIO } from '@gltf-transform/core';
import { blockSolid, faceNormal, solidTriangles } from '../block/solid';
import { terrainMesh } from '../earth/mesh';
import type { Terrain } from '../earth/compose';
import { normalAt } from '../earth/sample';
import { presentBlocks, settingsOf, type Level } from '../level/level';
import type { Block } from '../level/objects';
import type { Vec3 } from '../num/vec';

/**
 * The level as binary glTF 2.0: metres, Y up, one node a block by its name and one for the terrain.
 *
 * A block's node stands at the centre of its base with its turn; its mesh has its real dimensions,
 * never a scale. The origin is the level's.
 */
export async function levelToGlb(level: Level, terrain: Terrain): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Rammer';
  const buffer = document.createBuffer();
  const settings = settingsOf(level);
  const scene = document.createScene(settings.name);
  document.getRoot().setDefaultScene(scene);

  const ground = document.createMaterial('ground').setBaseColorFactor([0.35, 0.36, 0.27, 1]).setRoughnessFactor(1).setMetallicFactor(0);
  const blockout = document.createMaterial('blockout').setBaseColorFactor([0.68, 0.65, 0.57, 1]).setRoughnessFactor(1).setMetallicFactor(0);

  const add = (name: string, material: typeof ground, positions: Float32Array, normals: Float32Array, indices: Uint32Array, at?: Vec3, turn = 0) => {
    const primitive = document.createPrimitive().setMaterial(material)
      .setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(positions).setBuffer(buffer))
      .setAttribute('NORMAL', document.createAccessor().setType('VEC3').setArray(normals).setBuffer(buffer))
      .setIndices(document.createAccessor().setType('SCALAR').setArray(indices).setBuffer(buffer));
    const node = document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive));
    if (at) {
      const half = (turn * Math.PI) / 360;
      node.setTranslation(at).setRotation([0, Math.sin(half), 0, Math.cos(half)]);
    }
    scene.addChild(node);
  };

  const mesh = terrainMesh(terrain);
  const normals = new Float32Array(mesh.positions.length);
  for (let i = 0; i < normals.length; i += 3) normals.set(normalAt(terrain, mesh.positions[i], mesh.positions[i + 2]), i);
  add('terrain', ground, mesh.positions, normals, mesh.indices);
  for (const block of presentBlocks(level)) {
    const flat = blockMesh(block);
    add(block.name, blockout, flat.positions, flat.normals, flat.indices, block.at, block.turn);
  }
  return new WebIO().writeBinary(document);
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
  return { positions: Float32Array.from(positions), normals: Float32Array.from(normals), indices: Uint32Array.from(positions.filter((_, i) => i % 3 === 0), (_, i) => i) };
}
