import { ASSET_LIMITS } from '@rammer/core/io/assets/limits';
import { likelyRole, tagsOf } from '@rammer/core/kit/realSizes';
import type { AssetSummary } from '@rammer/core/kit/summary';
import { ofKind, playerBody } from '@rammer/core/level/level';
import type { Mend } from '@rammer/core/level/mend';
import type { AssetObject } from '@rammer/core/level/objects';
import { call, LONG } from '../outbox/api';
import { assetFile } from '../store/assetFile';
import { NOTHING_COMING, useComing, type ComingPlan } from '../store/coming';
import { newId } from '../store/names';
import type { Session } from '../store/session';
import { incomingWorker, replaceIncomingWorker } from '../workers/pool';
import { progress } from '../workers/progress';

/** A file with its path within what was chosen or dropped. */
export interface ChosenFile {
  path: string;
  file: File;
}

let asked = 0;

/** Runs long work of the card with its progress; whoever stops it hears nothing more of it. */
async function working<T>(what: string, run: (tell: (share: number) => void) => Promise<T>): Promise<T> {
  const { onProgress, end } = progress((share) => useComing.setState({ work: { what, share } }));
  useComing.setState({ work: { what, share: 0 } });
  try {
    return await run(onProgress);
  } finally {
    end();
    useComing.setState({ work: undefined });
  }
}

/**
 * Opens files that were chosen or dropped: what is among them is read in a worker and shown on the card, none of it kept.
 *
 * @param of an asset of the level that one of them is a newer file of: its mends are made again
 */
export async function openFiles(session: Session, files: readonly ChosenFile[], of?: AssetObject): Promise<void> {
  const large = files.find((f) => f.file.size > ASSET_LIMITS.bytes);
  if (large) {
    session.say(
      `${large.path} is ${Math.round(large.file.size / (1 << 20))} MB: meshes of up to ${ASSET_LIMITS.bytes >> 20} MB are read. Export a part of it`,
      true,
    );
    return;
  }
  const all = files.reduce((s, f) => s + f.file.size, 0);
  if (all > 2 * ASSET_LIMITS.bytes) {
    session.say(`these files are ${Math.round(all / (1 << 20))} MB together: up to ${(2 * ASSET_LIMITS.bytes) >> 20} MB are opened at once`, true);
    return;
  }
  closeComing();
  const mine = ++asked;
  useComing.setState({ open: true });
  try {
    const asset = of && (await assetFile(of.hash));
    const read = await working(`loading ${files.length === 1 ? files[0].path : `${files.length} files`}`, (tell) => incomingWorker().open([...files], tell));
    if (mine !== asked) return;
    const plans = Object.fromEntries(
      read.rows.map((row): [string, ComingPlan] => [
        row.key,
        of && asset
          ? { mends: of.mends ?? [], said: { name: of.name, role: of.role, tags: asset.tags, real: asset.real, licence: asset.licence } }
          : { mends: [], said: { name: row.name, role: likelyRole(tagsOf(row.name)), tags: tagsOf(row.name) } },
      ]),
    );
    useComing.setState({ ...read, plans, chosen: read.rows[0]?.key, ...(of && asset ? { of: { id: of.id, asset } } : {}) });
    if (of) await lookBefore(session, of);
    await look(session);
  } catch (error) {
    if (mine === asked) {
      useComing.setState({ ...NOTHING_COMING });
      session.say(`these files were not opened: ${(error as Error).message}`, true);
    }
  }
}

/** Opens the card of an asset of the level, with the mends it has; what it came from is mended anew. */
export async function openAsset(session: Session, object: AssetObject): Promise<void> {
  closeComing();
  const mine = ++asked;
  useComing.setState({ open: true });
  try {
    const asset = await assetFile(object.hash);
    const row = await working(`loading ${object.name}`, () =>
      incomingWorker().openHash(object.source?.hash ?? object.hash, object.source?.file ?? object.name, object.source?.scene),
    );
    if (mine !== asked) return;
    const said = { name: object.name, role: object.role, tags: asset.tags, real: asset.real, licence: asset.licence };
    useComing.setState({ rows: [row], plans: { [row.key]: { mends: object.mends ?? [], said } }, chosen: row.key, of: { id: object.id, asset } });
    await look(session);
    const { look: now, of } = useComing.getState();
    if (now && of) useComing.setState({ of: { ...of, card: now.card } });
  } catch (error) {
    if (mine !== asked) return;
    useComing.setState({ ...NOTHING_COMING });
    session.say(`${object.name} was not opened: ${(error as Error).message}`, true);
  }
}

/** How an asset is in the level now, to be held against its newer file. */
async function lookBefore(session: Session, object: AssetObject): Promise<void> {
  const row = await incomingWorker().openHash(object.hash, object.name);
  const seen = await incomingWorker().look(
    row.key,
    [],
    { name: object.name, role: object.role, tags: [] },
    playerBody(session.level).figures,
    progress(() => {}).onProgress,
  );
  const { of } = useComing.getState();
  if (of) useComing.setState({ of: { ...of, card: seen.card } });
  await incomingWorker().close([row.key]);
}

let looking = 0;

/** Makes the chosen mesh as it is planned and gathers what is said of it; of many askings only the last is shown. */
export async function look(session: Session): Promise<void> {
  const { chosen, plans } = useComing.getState();
  const plan = chosen === undefined ? undefined : plans[chosen];
  if (chosen === undefined || !plan) return;
  const mine = ++looking;
  try {
    const seen = await working(plan.mends.length > 0 ? 'mending' : 'measuring', (tell) =>
      incomingWorker().look(chosen, plan.mends, plan.said, playerBody(session.level).figures, tell),
    );
    if (mine === looking && useComing.getState().chosen === chosen) useComing.setState({ look: { ...seen, key: chosen }, failed: undefined });
  } catch (error) {
    if (mine === looking) useComing.setState({ failed: (error as Error).message });
  }
}

/** Shows another mesh on the card. */
export function chooseMesh(session: Session, key: string): void {
  useComing.setState({ chosen: key, look: undefined, failed: undefined });
  void look(session);
}

/** Changes what is planned for the chosen mesh. */
export function plan(session: Session, change: (plan: ComingPlan) => ComingPlan): void {
  const { chosen, plans } = useComing.getState();
  if (chosen === undefined || !plans[chosen]) return;
  useComing.setState({ plans: { ...plans, [chosen]: change(plans[chosen]) } });
  void look(session);
}

/** One mend more; of those that say the same thing in another way the last counts. */
export const withMend = (mends: readonly Mend[], mend: Mend): Mend[] => {
  const alone: Mend['mend'][] = ['lods', 'collider', 'trunk', 'sides', 'materials', 'pack', 'distant'];
  const next = [...(alone.includes(mend.mend) ? mends.filter((m) => m.mend !== mend.mend) : mends), mend];
  // What is pictured is what all else has made of it.
  return [...next.filter((m) => m.mend !== 'distant'), ...next.filter((m) => m.mend === 'distant')];
};

/** Keeps the chosen mesh: its file and what it came from go to the server, the asset into the level. One edit. */
export async function keepMesh(session: Session, key: string): Promise<boolean> {
  const { plans, rows, of } = useComing.getState();
  const row = rows.find((r) => r.key === key);
  const { mends, said } = plans[key];
  if (!row) return false;
  const name = said.name.trim() || row.name;
  try {
    return await working(`keeping ${name}`, async (tell) => {
      const { glb, source } = await incomingWorker().files(key, mends, { ...said, name }, tell);
      const send = (bytes: Uint8Array, query: string) =>
        call<AssetSummary>('POST', `/api/assets?name=${encodeURIComponent(name.slice(0, 110))}${query}`, bytes as BodyInit, {
          type: 'model/gltf-binary',
          ...LONG,
        });
      const from = await send(source, '&source=1');
      const kept = await send(glb, '');
      const fields = {
        name,
        role: said.role,
        hash: kept.hash,
        source: { hash: from.hash, file: row.path.slice(-260), ...(row.scene === undefined ? {} : { scene: row.scene }) },
        mends,
      };
      const there = of ? undefined : ofKind(session.level, 'asset').find((a) => a.hash === kept.hash);
      if (there) {
        useComing.setState((s) => ({ kept: [...s.kept, key] }));
        session.say(`${there.name} is in the level already: it holds the same`);
        return true;
      }
      const placed = of ? ofKind(session.level, 'piece').filter((p) => p.asset === of.id).length : 0;
      const done = of
        ? session.commit({ kind: 'set', patches: [{ id: of.id, set: fields }] }, `mend ${name}`)
        : session.commit({ kind: 'add', objects: [{ id: newId('asset'), version: 1, kind: 'asset', ...fields }] }, `bring in ${name}`);
      if (!done) throw new Error(session.message?.text ?? 'the level did not take it');
      useComing.setState((s) => ({ kept: [...s.kept, key] }));
      const size = kept.size.map((v) => v.toFixed(2)).join(' x ');
      session.say(`${name} kept: ${size} m, ${kept.triangles[0]} triangles${placed > 0 ? `; ${placed} placed from it follow` : ''}`);
      return true;
    });
  } catch (error) {
    session.say(`${name} was not kept: ${(error as Error).message}`, true);
    return false;
  }
}

/** Closes the card: what was not kept is given up, and work under way is ended. */
export function closeComing(): void {
  asked++;
  looking++;
  const { work, rows } = useComing.getState();
  // What reads a file cannot be asked to stop: its worker ends.
  if (work) replaceIncomingWorker();
  else if (rows.length > 0) void incomingWorker().close(rows.map((r) => r.key));
  useComing.setState(NOTHING_COMING, true);
}

/** Files of what was dropped, those of folders too, each with its path. */
export async function droppedFiles(items: DataTransferItemList): Promise<ChosenFile[]> {
  const out: ChosenFile[] = [];
  const walk = async (entry: FileSystemEntry, at: string): Promise<void> => {
    if (out.length > 4000) return;
    if (entry.isFile) {
      const file = await new Promise<File>((done, failed) => (entry as FileSystemFileEntry).file(done, failed));
      out.push({ path: at + entry.name, file });
      return;
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader();
    // A reader gives some at a time, and none when it has given all.
    for (;;) {
      const some = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed));
      if (some.length === 0) return;
      for (const e of some) await walk(e, `${at}${entry.name}/`);
    }
  };
  // All at once: what was dropped is gone after the first wait. What lies on no disk has no entry, and is its file alone.
  const dropped = [...items].filter((i) => i.kind === 'file').map((i) => ({ entry: i.webkitGetAsEntry(), file: i.getAsFile() }));
  for (const { entry, file } of dropped) {
    if (entry) await walk(entry, '');
    else if (file) out.push({ path: file.name, file });
  }
  return out;
}
