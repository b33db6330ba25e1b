import {
  DoubleSide,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  PlaneGeometry,
  Scene,
  SRGBColorSpace,
  TextureLoader,
  type BufferGeometry,
  type Group,
  type IUniform,
  type Points,
  type ShaderMaterial,
} from 'three';
import { poseMatrix } from '@rammer/core/cost/instances';
import { placer, rotationOf, type Pose } from '@rammer/core/num/pose';
import type { Asset } from '@rammer/core/kit/asset';
import type { Block } from '@rammer/core/level/objects';
import { lightAt, type PlaceLight } from '@rammer/core/light/cover';
import type { Vec3 } from '@rammer/core/num/vec';
import { pictureUrl } from '../store/pictures';
import type { PlacedMesh } from '@rammer/core/block/placedMesh';
import { blockGeometry } from './blockMesh';
import { blockMaterial } from './blockView';
import { colliderMarks, disposeMarks, nearestColliders } from './colliders';
import { dotsPoints } from './dots';
import { figureMesh, staffMesh } from './figure';
import type { AuthoredMaterials } from './authoredMaterials';
import { PEOPLE } from './layers';
import { ghostMesh, instanceMaterial } from './instanceView';

const BOARD = new PlaneGeometry(1, 1);

/** A reference picture standing in the level: the middle of its foot, degrees about Y, metres. */
export interface Board {
  id: string;
  hash: string;
  at: Vec3;
  turn: number;
  tilt?: Pose['tilt'];
  width: number;
  height: number;
  opacity: number;
}

/** What is drawn over the level and is not part of it: figures, the staff at the pointer, ghosts of tools, the walk area's dots. Not counted. */
export class Aids {
  readonly scene = new Scene();
  dots?: Points;
  /** shapes that stop a body, and how many there are in all */
  colliders?: { marks: Group; drawn: number; all: number };
  private readonly figures = new Map<string, Mesh<BufferGeometry, MeshBasicMaterial>>();
  private light?: PlaceLight;
  private readonly staff = staffMesh();
  private pointed?: Vec3;
  private home?: Vec3;
  private ghost?: Mesh<BufferGeometry, ShaderMaterial>;
  private assetGhost: Mesh[] = [];
  private ghostMaterial?: ShaderMaterial;
  private readonly boards = new Map<string, Mesh<BufferGeometry, MeshBasicMaterial>>();
  private boardsMade = '[]';

  constructor(
    private readonly shared: Record<string, IUniform>,
    private readonly authored: AuthoredMaterials,
    private readonly request: () => void,
  ) {
    this.scene.add(this.staff);
    this.staff.visible = false;
  }

  /** A block drawn where a tool would set it. */
  setGhost(block?: Block): void {
    if (this.ghost) {
      this.scene.remove(this.ghost);
      this.ghost.geometry.dispose();
    }
    if (block) {
      this.ghost ??= new Mesh(undefined, blockMaterial(this.shared, '#ded6c2'));
      this.ghost.geometry = blockGeometry([block]);
      this.ghost.frustumCulled = false;
      this.scene.add(this.ghost);
    }
    this.request();
  }

  /** Shapes that stop a body, those nearest to a place; nothing takes them away. */
  setColliders(meshes?: readonly PlacedMesh[], near: Vec3 = [0, 0, 0]): void {
    if (this.colliders) {
      this.scene.remove(this.colliders.marks);
      disposeMarks(this.colliders.marks);
      this.colliders = undefined;
    }
    if (meshes) {
      const drawn = nearestColliders(meshes, near);
      this.colliders = { marks: colliderMarks(drawn), drawn: drawn.length, all: meshes.length };
      this.scene.add(this.colliders.marks);
    }
    this.request();
  }

  /** A piece or plant drawn where a tool would set it. */
  setAssetGhost(asset?: Asset, pose?: Pose): void {
    for (const m of this.assetGhost) {
      this.scene.remove(m);
      m.geometry.dispose();
    }
    this.assetGhost = [];
    if (asset && pose) {
      const m = new Float32Array(16);
      poseMatrix(m, 0, pose);
      this.ghostMaterial ??= instanceMaterial(this.shared, 'piece', true);
      const own = this.ghostMaterial;
      this.assetGhost = ghostMesh(asset, (p) => (p.look === undefined ? own : this.authored.of(asset, p, { merged: false })), new Matrix4().fromArray(m));
      this.scene.add(...this.assetGhost);
    }
    this.request();
  }

  /** Figures to draw, by a key of the caller's. */
  setFigures(wanted: ReadonlyMap<string, { figures: Parameters<typeof figureMesh>[0]; at: Vec3; turn: number }>): void {
    for (const [key, mesh] of this.figures) {
      if (wanted.has(key.split('|')[0])) continue;
      this.scene.remove(mesh);
      mesh.geometry.dispose();
      this.figures.delete(key);
    }
    for (const [key, { figures, at, turn }] of wanted) {
      const full = `${key}|${figures.height},${figures.radius}`;
      for (const [other, mesh] of this.figures) {
        if (other.startsWith(`${key}|`) && other !== full) {
          this.scene.remove(mesh);
          this.figures.delete(other);
        }
      }
      let mesh = this.figures.get(full);
      if (!mesh) {
        mesh = figureMesh(figures);
        mesh.layers.enable(PEOPLE);
        this.figures.set(full, mesh);
        this.scene.add(mesh);
      }
      mesh.position.set(...at);
      mesh.rotation.y = (-turn * Math.PI) / 180;
      this.shade(mesh);
    }
    this.request();
  }

  /** Light of the level: people stand in shade and in the dark where they are. */
  setLight(light: PlaceLight): void {
    this.light = light;
    for (const mesh of this.figures.values()) this.shade(mesh);
  }

  private shade(mesh: Mesh<BufferGeometry, MeshBasicMaterial>): void {
    const { sun, sky } = this.light ? lightAt(this.light, [mesh.position.x, mesh.position.y, mesh.position.z]) : { sun: 1, sky: 1 };
    // In the dark they are still seen: they are there to measure by.
    mesh.material.color.setScalar(0.45 + 0.3 * sky + 0.25 * sun);
  }

  /** Boards of reference pictures; those that stayed keep their picture. */
  setBoards(boards: readonly Board[]): void {
    const wanted = JSON.stringify(boards);
    if (wanted === this.boardsMade) return;
    this.boardsMade = wanted;
    const keep = new Set(boards.map((b) => b.id));
    for (const [id, mesh] of this.boards) {
      if (keep.has(id)) continue;
      this.scene.remove(mesh);
      mesh.material.map?.dispose();
      mesh.material.dispose();
      this.boards.delete(id);
    }
    for (const b of boards) {
      let mesh = this.boards.get(b.id);
      if (!mesh) {
        mesh = new Mesh(BOARD, new MeshBasicMaterial({ side: DoubleSide, transparent: true }));
        mesh.frustumCulled = false;
        this.boards.set(b.id, mesh);
        this.scene.add(mesh);
        const { material } = mesh;
        void pictureUrl(b.hash)
          .then((url) => new TextureLoader().loadAsync(url))
          .then(
            (map) => {
              map.colorSpace = SRGBColorSpace;
              material.map = map;
              material.needsUpdate = true;
              this.request();
            },
            () => {},
          );
      }
      mesh.position.set(...placer(b)(0, b.height / 2, 0));
      mesh.quaternion.set(...rotationOf(b));
      mesh.scale.set(b.width, b.height, 1);
      mesh.material.opacity = b.opacity;
    }
    this.request();
  }

  /** The staff at the pointer; where the pointer is nowhere, at its home. */
  setStaff(at?: Vec3): void {
    this.pointed = at;
    this.placeStaff();
  }

  /** Where the staff stands while nothing is pointed at; nowhere without. */
  setHome(at?: Vec3): void {
    this.home = at;
    this.placeStaff();
  }

  private placeStaff(): void {
    const at = this.pointed ?? this.home;
    if (!at && !this.staff.visible) return;
    this.staff.visible = at !== undefined;
    if (at) this.staff.position.set(...at);
    this.request();
  }

  setDots(dots?: Float32Array): void {
    if (this.dots) {
      this.scene.remove(this.dots);
      this.dots.geometry.dispose();
      this.dots = undefined;
    }
    if (dots && dots.length > 0) {
      this.dots = dotsPoints(dots);
      this.scene.add(this.dots);
    }
    this.request();
  }
}
