import { useState } from 'react';
import { ofKind, presentBlocks, settingsOf } from '@rammer/core/level/level';
import { blockTriangles } from '@rammer/core/block/solid';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { exportWorker } from '../../workers/pool';

const slug = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'level';

function download(bytes: BlobPart, type: string, file: string): void {
  const url = URL.createObjectURL(new Blob([bytes], { type }));
  const a = document.createElement('a');
  a.href = url;
  a.download = file;
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** The package and the GLB of the level. */
export function HandoverBench({ session }: { session: Session }) {
  useSession(session);
  const [busy, setBusy] = useState<string>();
  const [done, setDone] = useState<{ text: string; bad: boolean }>();
  const { name } = settingsOf(session.level);
  const blocks = presentBlocks(session.level);
  const { grid } = session.terrain;
  const triangles = (grid.nx - 1) * (grid.nz - 1) * 2 + blocks.reduce((s, b) => s + blockTriangles(b), 0);
  const run = (what: string, work: () => Promise<string>) => {
    setBusy(what);
    setDone(undefined);
    work().then((text) => setDone({ text, bad: false }), (e: Error) => setDone({ text: e.message, bad: true })).finally(() => setBusy(undefined));
  };
  return (
    <div className="grid gap-3 overflow-y-auto px-3 py-3">
      <section className="grid gap-1.5">
        <h2 className="m-0 text-[14px] font-semibold">Level package</h2>
        <p className="label m-0">Everything: objects as JSON, hand work as 16-bit PNG. Open it on the Levels page, here or elsewhere.</p>
        <div><button className="act main" disabled={busy !== undefined || session.save.kind !== 'saved'} onClick={() => run('package', async () => {
          const answer = await fetch(`/api/levels/${session.id}/package`).catch(() => undefined);
          if (!answer?.ok) throw new Error('the server did not give the package: try again when it answers');
          const bytes = await answer.arrayBuffer();
          download(bytes, 'application/zip', `${slug(name)}.rammer.zip`);
          return `${slug(name)}.rammer.zip, ${(bytes.byteLength / 1024).toFixed(0)} kB`;
        })}>{busy === 'package' ? 'packing' : 'download package'}</button></div>
        {session.save.kind !== 'saved' && <p className="label m-0">Waits until everything is saved.</p>}
      </section>
      <hr className="rule" />
      <section className="grid gap-1.5">
        <h2 className="m-0 text-[14px] font-semibold">glTF binary</h2>
        <p className="label m-0">Metres, Y up, one node a block by its name, the terrain at full resolution: <span className="fig">{blocks.length + 1} nodes, {triangles.toLocaleString('en').replace(/,/g, '\u202f')} triangles</span>.</p>
        <div><button className="act main" disabled={busy !== undefined} onClick={() => run('glb', async () => {
          const bytes = await exportWorker().glb([...session.level.objects.values()], session.terrain.grid, session.terrain.heights);
          download(bytes as BlobPart, 'model/gltf-binary', `${slug(name)}.glb`);
          return `${slug(name)}.glb, ${(bytes.byteLength / (1 << 20)).toFixed(1)} MB`;
        })}>{busy === 'glb' ? 'writing' : 'download GLB'}</button></div>
      </section>
      <hr className="rule" />
      <dl className="fig m-0 grid gap-0.5">
        {[['size', `${grid.width} x ${grid.depth} m`], ['blocks', `${blocks.length}${ofKind(session.level, 'block').length > blocks.length ? `, ${ofKind(session.level, 'block').length - blocks.length} taken out` : ''}`], ['terrain', `${terrainSamples(grid.nx, grid.nz)} samples`]].map(([k, v]) => <div key={k} className="flex justify-between"><dt className="label">{k}</dt><dd className="m-0">{v}</dd></div>)}
      </dl>
      <p role="status" className="m-0" style={{ color: done?.bad ? 'var(--oxide)' : 'var(--lichen-text)' }}>{done?.text}</p>
    </div>
  );
}

const terrainSamples = (nx: number, nz: number): string => `${nx} x ${nz}`;
