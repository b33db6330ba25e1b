import type { PlacedMesh } from '../../block/placedMesh';
import type { Asset } from '../../kit/asset';
import { withFacts } from '../../kit/withFacts';
import { placedPiece } from '../../kit/placement';
import { PlacedScene } from '../../kit/placedScene';
import { ofKind } from '../../level/level';
import type { AssetObject, Piece, Standing } from '../../level/objects';
import { presentOf } from '../../level/present';
import { Journal, type Mark } from '../../num/journal';
import type { Dirt, Host, News, Node } from '../node';
import type { Runner } from '../runner';
import type { SolidsNode } from './solids';

/** Pieces and built blocks as meshes where they stand; and the meshes of the assets, which the runner reads. */
export class PlacedNode implements Node {
  readonly name = 'placed';
  readonly aspects = ['standing'] as const;
  readonly channels = [] as const;
  readonly from = ['solids'] as const;

  /** meshes that are here, by asset object; another map once one came */
  assets: ReadonlyMap<string, Asset>;
  /** counts assets that came */
  assetsRevision = 0;
  readonly scene = new PlacedScene();
  /** ids of meshes that came, went or changed */
  readonly journal = new Journal();

  /** hash of each asset's mesh that is here or on its way */
  private readonly loaded = new Map<string, string>();
  /** the meshes as their files have them, before what the level says of them */
  private readonly files = new Map<string, Asset>();
  private readonly said = new Map<string, AssetObject>();
  private mark?: Mark;
  private built?: Mark;
  private reading = 0;
  private done: Promise<void> = Promise.resolve();

  /** @param given meshes that are here from the start; where the runner reads none they are all there are */
  constructor(
    private readonly host: Host & { readonly solids: SolidsNode },
    private readonly runner: Runner,
    given: ReadonlyMap<string, Asset>,
  ) {
    this.assets = given;
  }

  get running(): boolean {
    return this.reading > 0;
  }

  /** Pieces that are in the level, those of copies too, sorted by id. */
  get pieces(): readonly Piece[] {
    return presentOf(this.host.level.objects).of('piece');
  }

  /** Pieces by id, then built blocks by id. */
  get list(): readonly PlacedMesh[] {
    return this.scene.list;
  }

  follow({ kinds, whole }: News): Dirt | undefined {
    const before = this.scene.revision;
    // Those of a level that is opened are on their way already.
    if (!whole && kinds.has('asset')) {
      this.read();
      this.takeFacts();
    }
    this.takeBuilt();
    this.takePieces();
    return this.scene.revision === before ? undefined : true;
  }

  /** What the level says of an asset changed: every use follows. */
  private takeFacts(): void {
    const changed = new Map<string, Asset>();
    for (const object of ofKind(this.host.level, 'asset')) {
      const file = this.files.get(object.id);
      const before = this.said.get(object.id);
      if (!file || !before || before === object || this.loaded.get(object.id) !== before.hash) continue;
      this.said.set(object.id, object);
      if (before.facts !== object.facts || before.role !== object.role) changed.set(object.id, withFacts(file, object));
    }
    if (changed.size === 0) return;
    this.assets = new Map([...this.assets, ...changed]);
    this.assetsRevision++;
    this.mark = undefined;
    this.scene.revision++;
  }

  private takeBuilt(): void {
    const { built, journal } = this.host.solids;
    const { ids, mark } = journal.since(this.built);
    this.built = mark;
    if (!ids) for (const mesh of this.scene.values()) if (mesh.of === 'block' && !built.has(mesh.id)) this.take(mesh.id);
    for (const id of ids ?? built.keys()) {
      const mesh = built.get(id);
      if (mesh) this.put(mesh);
      else if (this.scene.get(id)?.of === 'block') this.take(id);
    }
  }

  private takePieces(): void {
    const present = presentOf(this.host.level.objects);
    const { ids, mark } = present.since(this.mark);
    this.mark = mark;
    const place = (id: string, piece: Standing | undefined): void => {
      const asset = piece?.kind === 'piece' ? this.assets.get(piece.asset) : undefined;
      if (piece?.kind === 'piece' && asset) this.put(placedPiece(piece, asset));
      else if (this.scene.get(id) && this.scene.get(id)!.of !== 'block') this.take(id);
    };
    if (ids) for (const id of ids) place(id, present.get(id));
    else {
      const all = new Map(this.pieces.map((p) => [p.id, p]));
      for (const mesh of this.scene.values()) if (mesh.of !== 'block' && !all.has(mesh.id)) this.take(mesh.id);
      for (const [id, piece] of all) place(id, piece);
    }
  }

  private put(mesh: PlacedMesh): void {
    this.scene.put(mesh);
    this.journal.note(mesh.id);
  }

  private take(id: string): void {
    this.scene.delete(id);
    this.journal.note(id);
  }

  /** Ends when no mesh is being read. */
  async settled(): Promise<void> {
    while (this.running) await this.done;
  }

  /** Reads the meshes the level names that are not here yet. */
  read(): void {
    const before = this.done;
    const now = this.readAll();
    this.done = Promise.all([before, now]).then(() => {});
  }

  private async readAll(): Promise<void> {
    const { runner } = this;
    // By hash: what was cast again is another mesh under the same id.
    const wanted = runner.asset ? ofKind(this.host.level, 'asset').filter((o) => this.loaded.get(o.id) !== o.hash) : [];
    if (wanted.length === 0) return;
    this.reading++;
    for (const { id, hash } of wanted) this.loaded.set(id, hash);
    const came = new Map<string, Asset>();
    await Promise.all(
      wanted.map(async (object) => {
        try {
          const file = await runner.asset!(object);
          this.files.set(object.id, file);
          // What the level says of it may have changed meanwhile.
          const now = this.host.level.object(object.id);
          const said = now?.kind === 'asset' && now.hash === object.hash ? now : object;
          this.said.set(object.id, said);
          came.set(object.id, withFacts(file, said));
        } catch (error) {
          this.loaded.delete(object.id);
          this.host.fail(`${object.name} cannot be shown: ${(error as Error).message}`);
        }
      }),
    );
    this.reading--;
    if (this.host.closed || came.size === 0) return;
    this.assets = new Map([...this.assets, ...came]);
    this.assetsRevision++;
    this.mark = undefined;
    this.takePieces();
    this.host.spread('placed', true);
  }
}

/** Pieces by id, then built blocks by id. */
export const sortedMeshes = (meshes: PlacedMesh[]): PlacedMesh[] =>
  meshes.sort((a, b) => ((a.of === 'block') === (b.of === 'block') ? (a.id < b.id ? -1 : 1) : a.of === 'block' ? 1 : -1));
