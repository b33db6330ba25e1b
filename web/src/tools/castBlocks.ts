import { writeAsset } from '@rammer/core/io/assetGlb';
import { castAsset, commonTurn, pivotOf, type Pivot } from '@rammer/core/kit/cast';
import { assetFacts } from '@rammer/core/kit/asset';
import { differenceText, sizeDifference, standFor, type Fit } from '@rammer/core/kit/swap';
import type { AssetSummary } from '@rammer/core/kit/summary';
import { ofKind } from '@rammer/core/level/level';
import type { AssetObject, Block, Piece } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { call, LONG } from '../outbox/api';
import { assetFile } from '../store/assetFile';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { blockWorker } from '../workers/pool';
import { newId, nextName } from '../store/names';
import { mm } from './things';

export interface CastPlan {
  name: string;
  pivot: Pivot;
  collider: 'none' | 'box' | 'mesh';
  texel: number;
  picture: number;
}

/** The asset that was cast from just these blocks, if any. */
export function castOf(session: Session, blocks: readonly Block[]): AssetObject | undefined {
  const ids = new Set(blocks.map((b) => b.id));
  return ofKind(session.level, 'asset').find((a) => a.cast && a.cast.blocks.length === ids.size && a.cast.blocks.every((id) => ids.has(id)));
}

/**
 * Casts blocks into a mesh asset: joined by the kernel in its worker, kept on the server by its content,
 * then named in the level. Cast again, the asset keeps its id and its pivot, so that everything placed
 * from it follows.
 *
 * @returns what was made, in words
 * @throws Error in words for the person
 */
export async function castBlocks(session: Session, blocks: readonly Block[], plan: CastPlan): Promise<string> {
  const solids = blocks.filter((b) => b.op !== 'void');
  if (solids.length === 0) throw new Error('voids alone cast nothing: select solids too');
  const mesh = await blockWorker().joined(
    [...session.scene.solids.all, ...blocks.filter((b) => b.out)].map((b) => ({ ...b, out: false })),
    solids.map((b) => b.id),
  );
  if (mesh.indices.length === 0) throw new Error('nothing is left of these blocks to cast: they are cut away whole, or taken out of the level');
  const before = castOf(session, blocks);
  const turn = before?.cast?.turn ?? commonTurn(solids.map((b) => b.turn));
  const pivot = before?.cast?.pivot ?? (pivotOf(mesh, plan.pivot, turn).map(mm) as Vec3);
  const asset = castAsset(mesh, { ...plan, pivot, turn });
  const { hash } = await call<AssetSummary>('POST', `/api/assets?name=${encodeURIComponent(plan.name)}`, await writeAsset(asset), {
    type: 'model/gltf-binary',
    ...LONG,
  });
  const cast = { blocks: blocks.map((b) => b.id), pivot, turn, collider: plan.collider, texel: plan.texel, picture: plan.picture };
  const done = before
    ? session.commit({ kind: 'set', patches: [{ id: before.id, set: { hash, name: plan.name, cast } }] }, `cast ${plan.name} again`)
    : session.commit(
        { kind: 'add', objects: [{ id: newId('asset'), version: 1, kind: 'asset', name: plan.name, role: 'piece', hash, cast }] },
        `cast ${plan.name}`,
      );
  if (!done) throw new Error(session.message?.text ?? 'the cast was not kept');
  const facts = assetFacts(asset);
  const placed = before ? ofKind(session.level, 'piece').filter((p) => p.asset === before.id).length : 0;
  return (
    `${plan.name}: ${facts.size.map((v) => v.toFixed(2)).join(' x ')} m, ` +
    `${facts.triangles[0]} triangles${placed > 0 ? `; ${placed} placed from it follow` : ''}`
  );
}

/** What can stand for blocks: assets of the level, then the library's that it does not use yet. */
export interface Stand {
  key: string;
  name: string;
  hash: string;
  object?: AssetObject;
}

export function stands(session: Session, library: readonly AssetSummary[]): Stand[] {
  const stand = (role: AssetObject['role']) => role !== 'plant' && role !== 'reference';
  const own = ofKind(session.level, 'asset').filter((a) => stand(a.role));
  const used = new Set(own.map((a) => a.hash));
  return [
    ...own.map((object) => ({ key: object.id, name: object.name, hash: object.hash, object })),
    ...library.filter((a) => stand(a.role) && !used.has(a.hash) && !a.tags.includes('cast')).map((a) => ({ key: a.hash, name: a.name, hash: a.hash })),
  ];
}

/**
 * Takes blocks out of the level and sets an asset in their place: one piece a block, or, where the asset
 * was cast from these very blocks, one for all at its own pivot. One edit.
 */
export async function swapBlocks(session: Session, blocks: readonly Block[], stand: Stand, fit: Fit): Promise<string> {
  const asset = await assetFile(stand.hash);
  const object: AssetObject = stand.object ?? { id: newId('asset'), version: 1, kind: 'asset', name: asset.name, role: asset.role, hash: stand.hash };
  const whole = object.cast && castOf(session, blocks)?.id === object.id;
  const solids = blocks.filter((b) => b.op !== 'void');
  if (solids.length === 0) throw new Error('a void stands for nothing: select solids');
  const base = { version: 1, kind: 'piece' as const, asset: object.id, sink: 0, collider: 'asset' as const, hidden: false, out: false };
  let n = Number(/\d+$/.exec(nextName(session.level, asset.name))![0]);
  const piece = (more: Pick<Piece, 'at' | 'turn' | 'standsFor'> & Partial<Piece>): Piece => ({
    ...base,
    id: newId('piece'),
    name: `${asset.name} ${n++}`,
    ...more,
  });
  const pieces = whole
    ? [piece({ at: object.cast!.pivot, turn: object.cast!.turn, standsFor: blocks.map((b) => b.id) })]
    : solids.map((b) => {
        const place = standFor(b, asset, fit);
        return piece({ ...place, at: place.at.map(mm) as Vec3, standsFor: [b.id] });
      });
  const out = whole ? blocks : solids;
  const done = session.commit(
    {
      kind: 'together',
      parts: [
        { kind: 'add', objects: stand.object ? pieces : [object, ...pieces] },
        { kind: 'set', patches: out.map((b) => ({ id: b.id, set: { out: true } })) },
      ],
    },
    `swap ${out.length === 1 ? out[0].name : `${out.length} blocks`} for ${asset.name}`,
  );
  if (!done) throw new Error(session.message?.text ?? 'the swap was not kept');
  useUi.getState().select(pieces.map((p) => p.id));
  return whole || fit === 'fitted'
    ? `${pieces.length} swapped`
    : solids.length === 1
      ? `swapped: ${differenceText(sizeDifference(solids[0], asset))}`
      : `${pieces.length} swapped`;
}

/** Puts the blocks back that pieces stand for, and takes the pieces away. One edit. */
export function swapBack(session: Session, pieces: readonly Piece[]): boolean {
  const swapped = pieces.filter((p) => p.standsFor?.some((id) => session.level.object(id)?.kind === 'block'));
  if (swapped.length === 0) return false;
  const blocks = [...new Set(swapped.flatMap((p) => p.standsFor!))].filter((id) => session.level.object(id)?.kind === 'block');
  const done = session.commit(
    {
      kind: 'together',
      parts: [
        { kind: 'remove', ids: swapped.map((p) => p.id) },
        { kind: 'set', patches: blocks.map((id) => ({ id, set: { out: false } })) },
      ],
    },
    `swap ${swapped.length === 1 ? swapped[0].name : `${swapped.length} pieces`} back`,
  );
  if (done) useUi.getState().select(blocks);
  return done;
}

/** The piece that stands for a block, if any. */
export const standIn = (session: Session, id: string): Piece | undefined => ofKind(session.level, 'piece').find((p) => p.standsFor?.includes(id));
