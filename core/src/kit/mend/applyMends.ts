import type { Mend } from '../../level/mend';
import { cosDeg, sinDeg } from '../../num/trig';
import type { Asset } from '../asset';
import { makeCollider } from './colliders';
import { makeDistant, withoutDistant } from './distant';
import { makeLods } from './lods';
import { mergeMaterials, setSlot } from './mergeMaterials';
import { movePivot, scaleAsset, standUp, turnAsset } from './move';
import { smoothAsset } from './normals';
import { halvePictures, packPictures } from './pictures';
import type { MendTools } from './tools';
import { trunkRadius } from './trunk';
import { weldAsset } from './weld';

/** Does one mend; the asset given stays as it is. */
export async function applyMend(given: Asset, mend: Mend, tools: MendTools): Promise<Asset> {
  // What is changed after it was pictured looks otherwise.
  const asset = mend.mend === 'collider' || mend.mend === 'trunk' ? given : withoutDistant(given);
  switch (mend.mend) {
    case 'unit':
      return scaleAsset(asset, mend.factor);
    case 'axis':
      return standUp(asset, mend.up);
    case 'turn':
      return turnAsset(asset, [cosDeg(mend.degrees), sinDeg(mend.degrees)]);
    case 'pivot':
      return movePivot(asset, mend.at);
    case 'weld':
      return weldAsset(asset, mend.within);
    case 'normals':
      return smoothAsset(asset, mend.crease);
    case 'sides':
      return asset.materials ? { ...asset, materials: asset.materials.map((m) => ({ ...m, doubleSided: true })) } : asset;
    case 'lods':
      return makeLods(asset, mend.shares, tools.simplifier);
    case 'collider':
      return makeCollider(asset, mend.as, mend.parts, tools);
    case 'trunk':
      return { ...asset, trunk: mend.radius ?? trunkRadius(asset) };
    case 'materials':
      return mergeMaterials(asset, mend.to);
    case 'pictures':
      return halvePictures(asset, mend.most, tools.pictures);
    case 'pack':
      return packPictures(asset, tools.pictures);
    case 'distant':
      return makeDistant(asset, mend.side, tools.pictures);
    case 'slot':
      return setSlot(asset, mend.from, mend.to);
  }
}

/**
 * Mends in the order they were made: the same file and the same mends give the same asset, and a newer file the same mends.
 *
 * @param tell how many of them are done; what it throws ends the work
 */
export async function applyMends(asset: Asset, mends: readonly Mend[], tools: MendTools, tell: (done: number) => void = () => {}): Promise<Asset> {
  let out = asset;
  for (const [i, mend] of mends.entries()) {
    tell(i);
    out = await applyMend(out, mend, tools);
  }
  return out;
}
