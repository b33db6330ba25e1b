import { wrap, type Remote } from 'comlink';
import type { AssetWorker } from './asset.worker';
import type { BlockWorker } from './block.worker';
import type { EarthWorker } from './earth.worker';
import type { ExportWorker } from './export.worker';
import type { GrowthWorker } from './growth.worker';
import type { WalkWorker } from './walk.worker';
import type { WeatherWorker } from './weather.worker';

/** One worker a task, started when first asked for and kept. `replace` ends a broken one. */
function slot<T>(start: () => Worker): { get(): Remote<T>; replace(): void } {
  let worker: Worker | undefined;
  let remote: Remote<T> | undefined;
  return {
    get() {
      worker ??= start();
      remote ??= wrap<T>(worker);
      return remote;
    },
    replace() {
      worker?.terminate();
      worker = undefined;
      remote = undefined;
    },
  };
}

const earth = slot<EarthWorker>(() => new Worker(new URL('./earth.worker.ts', import.meta.url), { type: 'module', name: 'earth' }));
const growth = slot<GrowthWorker>(() => new Worker(new URL('./growth.worker.ts', import.meta.url), { type: 'module', name: 'growth' }));
const walk = slot<WalkWorker>(() => new Worker(new URL('./walk.worker.ts', import.meta.url), { type: 'module', name: 'walk' }));
const exporter = slot<ExportWorker>(() => new Worker(new URL('./export.worker.ts', import.meta.url), { type: 'module', name: 'export' }));
const block = slot<BlockWorker>(() => new Worker(new URL('./block.worker.ts', import.meta.url), { type: 'module', name: 'block' }));

const weather = slot<WeatherWorker>(() => new Worker(new URL('./weather.worker.ts', import.meta.url), { type: 'module', name: 'weather' }));

export const earthWorker = () => earth.get();
export const blockWorker = () => block.get();
export const replaceBlockWorker = () => block.replace();
export const growthWorker = () => growth.get();
export const replaceGrowthWorker = () => growth.replace();
export const walkWorker = () => walk.get();
export const replaceWalkWorker = () => walk.replace();
export const weatherWorker = () => weather.get();
export const replaceWeatherWorker = () => weather.replace();
export const exportWorker = () => exporter.get();

const asset = slot<AssetWorker>(() => new Worker(new URL('./asset.worker.ts', import.meta.url), { type: 'module', name: 'asset' }));
const incoming = slot<AssetWorker>(() => new Worker(new URL('./asset.worker.ts', import.meta.url), { type: 'module', name: 'incoming' }));
/** Reads the meshes of the level. */
export const assetWorker = () => asset.get();
/** Reads and mends meshes that come in: by itself, so that long work there holds nothing up, and may be ended. */
export const incomingWorker = () => incoming.get();
export const replaceIncomingWorker = () => incoming.replace();
