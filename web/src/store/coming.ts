import { create } from 'zustand';
import type { Asset } from '@rammer/core/kit/asset';
import type { AssetCard } from '@rammer/core/kit/card';
import type { Mend } from '@rammer/core/level/mend';
import type { IncomingRow, MendedMesh, SaidOfAsset } from '../workers/asset.worker';

/** What is to be done to a mesh that comes in, and what is said of it. */
export interface ComingPlan {
  mends: Mend[];
  said: SaidOfAsset;
}

/** Meshes that came in and are not kept yet: the card. */
interface Coming {
  open: boolean;
  rows: IncomingRow[];
  faults: { path: string; code: string; message: string }[];
  unused: string[];
  /** keys of those that were kept */
  kept: string[];
  chosen?: string;
  plans: Record<string, ComingPlan>;
  /** the chosen one as it would be kept */
  look?: MendedMesh & { key: string };
  /** the chosen one could not be mended so */
  failed?: string;
  /** of a mesh that is in the level: its asset object, and how it is there */
  of?: { id: string; asset: Asset; card?: AssetCard };
  work?: { what: string; share: number };
}

export const NOTHING_COMING: Coming = { open: false, rows: [], faults: [], unused: [], kept: [], plans: {} };

export const useComing = create<Coming>(() => NOTHING_COMING);
