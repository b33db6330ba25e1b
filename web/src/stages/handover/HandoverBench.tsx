import { useState } from 'react';
import { ofKind, settingsOf } from '@rammer/core/level/level';
import { blockTriangles } from '@rammer/core/block/solid';
import { terrainGlbBytes } from '@rammer/core/io/glbStream';
import { groupsOf } from '@rammer/core/io/obj';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { download, slug } from '../../ui/download';
import { exportWorker } from '../../workers/pool';

/** Terrain of so many bytes is more than most programs open with ease. */
const LARGE = 60e6;

/** The package and the GLB of the level. */
export function HandoverBench({ session }: { session: Session }) {
  useSession(session);
  const [busy, setBusy] = useState<string>();
  const [done, setDone] = useState<{ text: string; bad: boolean }>();
  const { name } = settingsOf(session.level);
  const blocks = session.scene.solids.all.filter((b) => b.op !== 'void');
  const takenOut = ofKind(session.level, 'block').length - blocks.length;
  const { grid } = session.terrain;
  const { scene } = session;
  const plants = scene.plants.grown.reduce((sum, g) => sum + g.count, 0);
  const triangles =
    (grid.nx - 1) * (grid.nz - 1) * 2 + blocks.reduce((s, b) => s + (scene.solids.built.get(b.id)?.indices.length ?? blockTriangles(b) * 3) / 3, 0);
  const run = (what: string, work: () => Promise<string>) => {
    setBusy(what);
    setDone(undefined);
    work()
      .then(
        (text) => setDone({ text, bad: false }),
        (e: Error) => setDone({ text: e.message, bad: true }),
      )
      .finally(() => setBusy(undefined));
  };
  return (
    <div className="grid gap-3 overflow-y-auto px-3 py-3">
      <section className="grid gap-1.5">
        <h2 className="m-0 text-[14px] font-semibold">Level package</h2>
        <p className="label m-0">Everything: objects as JSON, hand work as 16-bit PNG. Open it on the Levels page, here or elsewhere.</p>
        <div>
          <button
            className="act main"
            disabled={busy !== undefined || session.save.kind !== 'saved'}
            onClick={() =>
              run('package', async () => {
                const answer = await fetch(`/api/levels/${session.id}/package`).catch(() => undefined);
                if (!answer?.ok) throw new Error('the server did not give the package: try again when it answers');
                const bytes = await answer.arrayBuffer();
                download(bytes, 'application/zip', `${slug(name)}.rammer.zip`);
                return `${slug(name)}.rammer.zip, ${(bytes.byteLength / 1024).toFixed(0)} kB`;
              })
            }
          >
            {busy === 'package' ? 'packing' : 'download package'}
          </button>
        </div>
        {session.save.kind !== 'saved' && <p className="label m-0">Waits until everything is saved.</p>}
      </section>
      <hr className="rule" />
      <section className="grid gap-1.5">
        <h2 className="m-0 text-[14px] font-semibold">glTF binary</h2>
        <p className="label m-0">
          Metres, Y up, the terrain at full resolution, one node a block by its name, in a node of its group:{' '}
          <span className="fig">
            {blocks.length + 1} nodes, {triangles.toLocaleString('en').replace(/,/g, '\u202f')} triangles
          </span>
          ; with {scene.placed.pieces.length} pieces and {plants} plants, each a node, or a node a kind with EXT_mesh_gpu_instancing.
          {terrainGlbBytes(grid) > LARGE && (
            <>
              {' '}
              The terrain alone is <span className="fig">{Math.round(terrainGlbBytes(grid) / 1e6)} MB</span>: <em>terrain LODs</em> has it lighter, in up to six
              steps.
            </>
          )}
        </p>
        <div className="flex flex-wrap gap-2">
          {(
            [
              ['glb', 'download GLB', false],
              ['instanced', 'instanced GLB', true],
            ] as const
          ).map(([id, word, instanced]) => (
            <button
              key={id}
              className={instanced ? 'act' : 'act main'}
              disabled={busy !== undefined}
              onClick={() =>
                run(id, async () => {
                  await scene.settled();
                  const glb = await exportWorker().glb([...session.level.objects.values()], session.terrain.grid, session.terrain.heights, {
                    instanced,
                    built: [...scene.solids.built.values()],
                    parts: { assets: scene.placed.assets, grown: scene.plants.grown, species: scene.plants.species, waters: scene.waters.bodies },
                  });
                  const file = `${slug(name)}${instanced ? '-instanced' : ''}.glb`;
                  download(glb, 'model/gltf-binary', file);
                  return `${file}, ${(glb.size / (1 << 20)).toFixed(1)} MB`;
                })
              }
            >
              {busy === id ? 'writing' : word}
            </button>
          ))}
          <button
            className="act"
            disabled={busy !== undefined}
            title="a zip of the meshes that stand and grow here, each a GLB with its materials, pictures, LODs and colliders"
            onClick={() =>
              run('assets', async () => {
                await scene.settled();
                const species = scene.plants.species.map(({ asset }) => ({ asset }));
                const { zip, count } = await exportWorker().assets([...session.level.objects.values()], scene.placed.assets, species);
                download(zip as BlobPart, 'application/zip', `${slug(name)}-assets.zip`);
                return `${count} assets, ${(zip.length / (1 << 20)).toFixed(1)} MB`;
              })
            }
          >
            {busy === 'assets' ? 'writing' : 'assets'}
          </button>
          <button
            className="act"
            disabled={busy !== undefined}
            title="the terrain alone, a node a level of detail"
            onClick={() =>
              run('terrain', async () => {
                const { glb, lods } = await exportWorker().terrain(session.terrain.grid, session.terrain.heights);
                download(glb as BlobPart, 'model/gltf-binary', `${slug(name)}-terrain-lods.glb`);
                return (
                  `${lods.length} LODs of the terrain, ` +
                  `${lods[0].triangles.toLocaleString('en').replace(/,/g, '\u202f')} to ${lods[lods.length - 1].triangles} triangles`
                );
              })
            }
          >
            {busy === 'terrain' ? 'writing' : 'terrain LODs'}
          </button>
        </div>
      </section>
      <hr className="rule" />
      <section className="grid gap-1.5">
        <h2 className="m-0 text-[14px] font-semibold">For other programs</h2>
        <p className="label m-0">
          Heights as 16-bit PNG or RAW, contours as SVG, the strongest ground by its number, the surfaces' shares as RGBA PNG, each with a sidecar that says
          range, spacing and names; blocks as OBJ.
        </p>
        <div className="flex flex-wrap gap-2">
          <button
            className="act"
            disabled={busy !== undefined}
            onClick={() =>
              run('heights', async () => {
                const { png, sidecar } = await exportWorker().heights(session.terrain.grid, session.terrain.heights);
                download(png as BlobPart, 'image/png', `${slug(name)}-heights.png`);
                download(JSON.stringify(sidecar), 'application/json', `${slug(name)}-heights.json`);
                return `heights ${sidecar.low.toFixed(2)} to ${sidecar.high.toFixed(2)} m`;
              })
            }
          >
            heights
          </button>
          <button
            className="act"
            disabled={busy !== undefined}
            onClick={() =>
              run('raw', async () => {
                const { raw, sidecar } = await exportWorker().raw(session.terrain.grid, session.terrain.heights);
                download(raw as BlobPart, 'application/octet-stream', `${slug(name)}-heights.raw`);
                download(JSON.stringify(sidecar), 'application/json', `${slug(name)}-heights-raw.json`);
                return `${sidecar.width} x ${sidecar.height} heights, 16 bits, lower byte first`;
              })
            }
          >
            RAW
          </button>
          <button
            className="act"
            disabled={busy !== undefined}
            onClick={() =>
              run('contours', async () => {
                download(await exportWorker().contours(session.terrain.grid, session.terrain.heights, 1), 'image/svg+xml', `${slug(name)}-contours.svg`);
                return 'contours each metre';
              })
            }
          >
            contours
          </button>
          <button
            className="act"
            disabled={busy !== undefined}
            onClick={() =>
              run('ground', async () => {
                const { png, sidecar } = await exportWorker().ground(scene.ground.raster);
                download(png as BlobPart, 'image/png', `${slug(name)}-ground.png`);
                download(JSON.stringify(sidecar), 'application/json', `${slug(name)}-ground.json`);
                return `ground: ${sidecar.names.join(', ')}`;
              })
            }
          >
            ground
          </button>
          <button
            className="act"
            disabled={busy !== undefined}
            onClick={() =>
              run('weights', async () => {
                const { pngs, sidecar } = await exportWorker().weights(scene.ground.raster);
                pngs.forEach((png, i) => download(png as BlobPart, 'image/png', `${slug(name)}-weights${i === 0 ? '' : `-${i + 1}`}.png`));
                download(JSON.stringify(sidecar), 'application/json', `${slug(name)}-weights.json`);
                return `weights of ${sidecar.channels.join(', ')}`;
              })
            }
          >
            weights
          </button>
          <button
            className="act"
            disabled={busy !== undefined}
            onClick={() =>
              run('obj', async () => {
                await scene.settled();
                download(
                  await exportWorker().obj([...scene.solids.plain.list], [...scene.solids.built.values()], groupsOf(scene.solids.all)),
                  'model/obj',
                  `${slug(name)}-blocks.obj`,
                );
                return `${blocks.length} blocks`;
              })
            }
          >
            OBJ of the blocks
          </button>
        </div>
      </section>
      <hr className="rule" />
      <dl className="fig m-0 grid gap-0.5">
        {[
          ['size', `${grid.width} x ${grid.depth} m`],
          ['blocks', `${blocks.length}${takenOut > 0 ? `, ${takenOut} taken out` : ''}`],
          ['terrain', `${terrainSamples(grid.nx, grid.nz)} samples`],
        ].map(([k, v]) => (
          <div key={k} className="flex justify-between">
            <dt className="label">{k}</dt>
            <dd className="m-0">{v}</dd>
          </div>
        ))}
      </dl>
      <p role="status" className="m-0" style={{ color: done?.bad ? 'var(--oxide)' : 'var(--lichen-text)' }}>
        {done?.text}
      </p>
    </div>
  );
}

const terrainSamples = (nx: number, nz: number): string => `${nx} x ${nz}`;
