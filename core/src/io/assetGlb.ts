import { Document, WebIO, type Accessor, type Material, type Mesh as GltfMesh, type Node } from '@gltf-transform/core';
import { hasBillboard, type Asset, type DistantPicture, type Primitive } from '../kit/asset';
import type { AssetTexture } from '../kit/material';
import type { Mesh } from '../num/mesh';
import { checkGltf } from './assets/checkGltf';
import { withCodecs, READ_EXTENSIONS } from './assets/codecs';
import { extrasSchema, type AssetExtras } from './assets/extras';
import { openGltf, type Beside, type GltfFile } from './assets/gltfFile';
import { ASSET_LIMITS, type AssetLimits } from './assets/limits';
import { MaterialReader } from './assets/readMaterials';
import { gatherNode, type MeshReading } from './assets/readMesh';
import { MaterialWriter } from './assets/writeMaterials';
import { fault, type Outcome } from './fault';

export { ASSET_LIMITS };

/** How an asset is read. */
export interface ReadAssetOptions {
  limits?: AssetLimits;
  /** where Draco's WebAssembly lies, for a host that moves files; left out in Node */
  dracoWasm?: string;
  /** which of several scenes; left out, the one the file opens with */
  scene?: number;
  /** files that lie beside it, for glTF that is not one file */
  beside?: Beside;
}

/**
 * A mesh asset as binary glTF 2.0: one node a LOD under the scene, finest first, meshes of its collider as nodes of their
 * own, and what Rammer knows of it in the scene's `extras.rammer`. Of Rammer's own kit colours are COLOR_0, whose alpha
 * says how far the instance's tint applies, which a reader that does not know it draws as an opaque colour.
 */
export async function writeAsset(asset: Asset): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Rammer';
  const { role, collider, real, tags, trunk, licence, errors, kit, grounds } = asset;
  const scene = document.createScene(asset.name).setExtras({
    rammer: {
      role,
      collider,
      ...(real ? { real } : {}),
      tags,
      trunk,
      ...(asset.materials ? { authored: true } : {}),
      ...(errors ? { errors } : {}),
      ...(licence ? { licence } : {}),
      ...(kit ? { kit } : {}),
      ...(grounds ? { grounds } : {}),
      ...(asset.distant ? { distant: distantExtras(asset.distant) } : {}),
    },
  });
  document.getRoot().setDefaultScene(scene);
  const writer = new AssetMeshWriter(document);
  asset.lods.forEach((lod, i) => {
    const last = i > 0 && i === asset.lods.length - 1;
    const name = last && asset.distant ? 'distant' : last && hasBillboard(asset) ? 'billboard' : `lod${i}`;
    scene.addChild(document.createNode(name).setMesh(writer.mesh(name, lod, asset)));
  });
  if (asset.distant) writer.picture(asset.textures![asset.distant.normals]);
  asset.colliders?.forEach((mesh, i) => {
    scene.addChild(document.createNode(`collider${i}`).setMesh(writer.bare(`collider${i}`, [mesh])));
  });
  return (await withCodecs(new WebIO(), {})).writeBinary(document);
}

/** Its picture of directions is found by its name. */
const distantExtras = ({ half, low, high, columns, rows, between }: DistantPicture): AssetExtras['distant'] => ({ half, low, high, columns, rows, between });

/** Writes meshes of assets into a document. */
export class AssetMeshWriter {
  private readonly buffer;
  private readonly plain = new Map<string, Material>();
  private readonly materials: MaterialWriter;

  /** @param forOthers names materials after their asset, and says nothing in colours that only Rammer knows */
  constructor(
    private readonly document: Document,
    private readonly forOthers = false,
  ) {
    this.buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer();
    this.materials = new MaterialWriter(document);
  }

  mesh(name: string, lod: readonly Primitive[], asset: Pick<Asset, 'name' | 'materials' | 'textures'>): GltfMesh {
    const mesh = this.document.createMesh(name);
    const prefix = this.forOthers ? `${asset.name} ` : '';
    for (const p of lod) {
      const material =
        p.look === undefined
          ? this.house(p, prefix + p.material, name === 'billboard')
          : this.materials.of(asset.materials![p.look], asset.textures ?? [], prefix);
      const primitive = this.document
        .createPrimitive()
        .setMaterial(material)
        .setAttribute('POSITION', this.accessor('VEC3', p.positions))
        .setAttribute('NORMAL', this.accessor('VEC3', p.normals))
        .setIndices(this.accessor('SCALAR', p.indices));
      if (p.colours) primitive.setAttribute('COLOR_0', this.accessor('VEC4', this.forOthers && p.look === undefined ? opaque(p.colours) : p.colours));
      if (p.tangents) primitive.setAttribute('TANGENT', this.accessor('VEC4', p.tangents));
      if (p.uvs) primitive.setAttribute('TEXCOORD_0', this.accessor('VEC2', p.uvs));
      if (p.uvs1) primitive.setAttribute('TEXCOORD_1', this.accessor('VEC2', p.uvs1));
      mesh.addPrimitive(primitive);
    }
    return mesh;
  }

  /** A picture that no material wears. */
  picture(texture: AssetTexture): void {
    this.materials.picture(texture);
  }

  /** Shapes without a look, a primitive each: a collider. */
  bare(name: string, shapes: readonly Mesh[]): GltfMesh {
    const mesh = this.document.createMesh(name);
    for (const { positions, indices } of shapes)
      mesh.addPrimitive(
        this.document.createPrimitive().setAttribute('POSITION', this.accessor('VEC3', positions)).setIndices(this.accessor('SCALAR', indices)),
      );
    return mesh;
  }

  private house(p: Primitive, name: string, card: boolean): Material {
    let material = this.plain.get(name);
    if (!material) {
      material = this.document
        .createMaterial(name)
        .setRoughnessFactor(1)
        .setMetallicFactor(0)
        .setAlphaMode(p.alphaTested ? 'MASK' : 'OPAQUE')
        .setDoubleSided(card || p.alphaTested);
      this.plain.set(name, material);
    }
    return material;
  }

  private accessor(type: 'VEC2' | 'VEC3' | 'VEC4' | 'SCALAR', array: Float32Array | Uint32Array): Accessor {
    return this.document
      .createAccessor()
      .setType(type)
      .setArray(array.slice() as Float32Array<ArrayBuffer>)
      .setBuffer(this.buffer);
  }
}

/** Colours as another program should see them: alpha says nothing about how opaque they are. */
function opaque(colours: Float32Array): Float32Array {
  const out = Float32Array.from(colours);
  for (let i = 3; i < out.length; i += 4) out[i] = 1;
  return out;
}

/**
 * Reads an asset that nobody vouches for. Headers and counts are checked before anything is decoded;
 * every fault is named and nothing is made.
 *
 * @param name for messages, and where the file has none of its own
 * @example
 * const read = await readAsset(bytes, 'crate');
 * if (!read.ok) return read; // { code: 'glb-truncated', message: 'crate says ...' }
 */
export async function readAsset(bytes: Uint8Array, name = 'asset', options: ReadAssetOptions = {}): Promise<Outcome<Asset>> {
  try {
    const opened = openGltf(bytes, name, options.limits ?? ASSET_LIMITS, options.beside);
    return opened.ok ? await readGltf(opened.value, name, options) : opened;
  } catch (error) {
    // A field of a form that nobody thought of: whatever it is, the file is at fault.
    return fault('glb-invalid', `${name} cannot be read as glTF: ${(error as Error).message}`);
  }
}

/** The document of a checked file, unpacked. */
async function documentOf(file: GltfFile, needed: { draco: boolean; meshopt: boolean; dracoWasm?: string }): Promise<Document> {
  const io = await withCodecs(new WebIO(), needed);
  const json = JSON.parse(JSON.stringify(file.json)) as GltfFile['json'];
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  file.buffers.forEach((bytes, i) => {
    const buffer = json.buffers![i];
    if (!bytes) {
      delete buffer.uri;
      return;
    }
    buffer.uri = `buffer${i}.bin`;
    resources[buffer.uri] = bytes as Uint8Array<ArrayBuffer>;
  });
  for (const [i, bytes] of file.images) {
    const uri = `picture${i}`;
    json.images![i].uri = uri;
    resources[uri] = bytes as Uint8Array<ArrayBuffer>;
  }
  // One form under two names.
  for (const holder of [...(json.bufferViews ?? []), ...(json.buffers ?? [])]) {
    const packed = holder.extensions?.KHR_meshopt_compression;
    if (packed !== undefined) holder.extensions = { ...holder.extensions, EXT_meshopt_compression: packed };
  }
  const renamed = (list?: string[]) => list?.map((e) => (e === 'KHR_meshopt_compression' ? 'EXT_meshopt_compression' : e));
  json.extensionsUsed = renamed(json.extensionsUsed);
  // What is not read is about looks: it is left out, and said.
  json.extensionsRequired = renamed(json.extensionsRequired)?.filter((e) => READ_EXTENSIONS.has(e));
  return io.readJSON({ json: json as never, resources });
}

async function readGltf(file: GltfFile, name: string, options: ReadAssetOptions): Promise<Outcome<Asset>> {
  const limits = options.limits ?? ASSET_LIMITS;
  const checked = checkGltf(file, name, limits);
  if (!checked.ok) return checked;
  let document: Document;
  try {
    document = await documentOf(file, { ...checked.value, dracoWasm: options.dracoWasm });
  } catch (error) {
    return fault('glb-invalid', `${name} cannot be read as glTF: ${(error as Error).message}`);
  }
  const root = document.getRoot();
  const scenes = root.listScenes();
  const scene = (options.scene === undefined ? root.getDefaultScene() : scenes[options.scene]) ?? scenes[0];
  const top = scene?.listChildren() ?? root.listNodes().filter((n) => !n.getParentNode());
  if (!scene && top.length === 0) return fault('glb-empty', `${name} has no scene`);
  const said = (scene?.getExtras() as { rammer?: unknown } | undefined)?.rammer;
  const extras = extrasSchema.safeParse(said ?? {});
  if (!extras.success) return fault('glb-extras', `${name}: extras.rammer.${extras.error.issues[0].path.join('.')}: ${extras.error.issues[0].message}`);
  const e = extras.data;
  const materials = new MaterialReader();
  const reading: MeshReading = {
    name,
    limits,
    materials,
    house: said !== undefined && !e.authored && houseMade(root.listMaterials()),
    notes: materials.notes,
    triangles: 0,
  };
  const lods = readLods(top, reading);
  if (!lods.ok) return lods;
  if (e.role === 'plant' && reading.house && lods.value.length < 2) return fault('glb-extras', `${name} is a plant and needs at least one LOD and a billboard`);
  const colliders = readColliders(top, reading);
  if (!colliders.ok) return colliders;
  for (const used of file.json.extensionsUsed ?? [])
    if (/^(KHR|EXT)_materials/.test(used) && !READ_EXTENSIONS.has(used)) materials.notes.add(`${used} is not drawn`);
  if (scenes.length > 1) materials.notes.add(`the file holds ${scenes.length} scenes: this is ${scene?.getName() || `number ${scenes.indexOf(scene!) + 1}`}`);
  const seen = e.distant && top.some((n) => n.getName() === 'distant') && root.listTextures().find((t) => t.getName() === 'distant normals');
  const normals = seen ? materials.picture(seen) : undefined;
  const pictures = reading.house ? houseTextureBytes(checked.value.pictures.values()) : materials.textures.reduce((s, t) => s + t.gpuBytes, 0);
  return {
    ok: true,
    value: {
      name: nameOf(scene?.getName() ?? '', name, said !== undefined),
      role: e.role,
      collider: e.collider,
      ...(e.real ? { real: e.real } : {}),
      tags: e.tags,
      trunk: e.trunk,
      lods: lods.value,
      textureBytes: pictures,
      ...(reading.house ? {} : { materials: materials.materials, textures: materials.textures }),
      ...(colliders.value.length > 0 ? { colliders: colliders.value } : {}),
      ...(e.distant && normals !== undefined ? { distant: { ...e.distant, normals } } : {}),
      ...(e.errors ? { errors: e.errors } : {}),
      ...(e.licence ? { licence: e.licence } : {}),
      ...(e.kit ? { kit: e.kit } : {}),
      ...(e.grounds ? { grounds: e.grounds } : {}),
      ...(materials.notes.size > 0 ? { notes: [...materials.notes] } : {}),
    },
  };
}

const houseTextureBytes = (pictures: Iterable<{ width: number; height: number }>): number =>
  [...new Set(pictures)].reduce((s, { width, height }) => s + (width * height * 4 * 4) / 3, 0);

/** Rammer's own kit wears no pictures and does not shine. */
const houseMade = (materials: readonly Material[]): boolean => materials.every((m) => !m.getBaseColorTexture() && m.getMetallicFactor() === 0);

/** A scene that nobody named tells less than the name of the file. */
function nameOf(scene: string, file: string, own: boolean): string {
  const nobody = /(^|_)scene([._ -]?\d+)?$|^(root|root ?node|world|default|untitled|empty)([._ -]?\d+)?$/i.test(scene.trim());
  return (own ? scene || file : nobody || !scene.trim() ? file : scene.trim()).slice(0, 120);
}

/** LODs are the nodes that are called so; where none is, all that stands is the finest. */
function readLods(top: readonly Node[], reading: MeshReading): Outcome<Primitive[][]> {
  const { name, limits } = reading;
  const ranked = top.some((n) => /^lod\d$/.test(n.getName())) ? top.filter((n) => /^(lod\d|billboard|distant)$/.test(n.getName())) : undefined;
  if (ranked && ranked.length > limits.lods) return fault('glb-too-large', `${name} has ${ranked.length} LODs; at most ${limits.lods} are read`);
  const lods: Primitive[][] = [];
  for (const group of ranked ? ranked.map((n) => [n]) : [top.filter((n) => !COLLIDER_NODE.test(n.getName()))]) {
    const lod: Primitive[] = [];
    for (const node of group) {
      const got = gatherNode(node, reading, lod);
      if (!got.ok) return got;
    }
    if (lod.length === 0) return fault('glb-no-triangles', `${name} has no triangles${ranked ? ` in ${group[0].getName()}` : ''}: there is nothing to place`);
    lods.push(lod);
  }
  return { ok: true, value: lods };
}

const COLLIDER_NODE = /^collider\d*$/;

function readColliders(top: readonly Node[], reading: MeshReading): Outcome<Mesh[]> {
  const out: Primitive[] = [];
  for (const node of top) {
    if (!COLLIDER_NODE.test(node.getName())) continue;
    const got = gatherNode(node, { ...reading, house: true }, out);
    if (!got.ok) return got;
  }
  return { ok: true, value: out.map(joinedCorners) };
}

/** A shape without normals is read flat, each triangle with corners of its own: equal corners become one again. */
function joinedCorners({ positions: p, indices }: Mesh): Mesh {
  const known = new Map<string, number>();
  const positions: number[] = [];
  const out = Uint32Array.from(indices, (i) => {
    const key = `${p[i * 3]},${p[i * 3 + 1]},${p[i * 3 + 2]}`;
    let at = known.get(key);
    if (at === undefined) {
      known.set(key, (at = positions.length / 3));
      positions.push(p[i * 3], p[i * 3 + 1], p[i * 3 + 2]);
    }
    return at;
  });
  return { positions: Float32Array.from(positions), indices: out };
}
