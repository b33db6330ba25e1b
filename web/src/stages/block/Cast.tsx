import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { assetToObj } from '@rammer/core/io/obj';
import { PIVOTS, type Pivot } from '@rammer/core/kit/cast';
import type { Asset } from '@rammer/core/kit/asset';
import { differenceText, sizeDifference, type Fit } from '@rammer/core/kit/swap';
import type { AssetSummary } from '@rammer/core/kit/summary';
import type { Block } from '@rammer/core/level/objects';
import { call } from '../../outbox/api';
import { assetFile } from '../../store/assetFile';
import type { Session } from '../../store/session';
import { castBlocks, castOf, standIn, stands, swapBack, swapBlocks, type CastPlan } from '../../tools/castBlocks';
import { download, slug } from '../../ui/download';
import { NumberField } from '../../ui/NumberField';

const PIVOT_WORDS: Record<Pivot, string> = { base: 'middle of the base', centre: 'middle', corner: 'low corner', origin: 'level origin' };
const PICTURES = [256, 512, 1024, 2048, 4096];

/** The selection as a mesh asset, and an asset in the selection's place. */
export function Cast({ session, blocks }: { session: Session; blocks: Block[] }) {
  const client = useQuery({ queryKey: ['assets'], queryFn: () => call<AssetSummary[]>('GET', '/api/assets') });
  const before = castOf(session, blocks);
  const group = blocks.every((b) => b.group === blocks[0].group) ? blocks[0].group : undefined;
  const [plan, setPlan] = useState<CastPlan>(() => ({
    name: before?.name ?? group ?? (blocks.length === 1 ? blocks[0].name : 'cast'),
    pivot: 'base',
    collider: before?.cast?.collider ?? 'mesh',
    texel: before?.cast?.texel ?? 512,
    picture: before?.cast?.picture ?? 1024,
  }));
  const [busy, setBusy] = useState(false);
  const [chosen, setChosen] = useState('');
  const [fit, setFit] = useState<Fit>('own');
  const [mesh, setMesh] = useState<Asset>();
  const options = stands(session, client.data ?? []);
  const stand = options.find((o) => o.key === chosen) ?? options.find((o) => o.object?.id === before?.id) ?? options[0];
  const swapped = blocks.flatMap((b) => {
    const p = standIn(session, b.id);
    return p ? [p] : [];
  });
  useEffect(() => {
    let gone = false;
    if (stand)
      void assetFile(stand.hash).then(
        (a) => {
          if (!gone) setMesh(a);
        },
        () => {},
      );
    return () => {
      gone = true;
    };
  }, [stand?.hash, stand]);
  const run = (work: () => Promise<string>, failed: string) => {
    setBusy(true);
    work()
      .then(
        (text) => {
          session.say(text);
          void client.refetch();
        },
        (e: Error) => session.say(`${failed}: ${e.message}`, true),
      )
      .finally(() => setBusy(false));
  };
  const give = async (kind: 'glb' | 'obj') => {
    if (!before) return;
    if (kind === 'glb') download(await (await fetch(`/api/assets/${before.hash}`)).arrayBuffer(), 'model/gltf-binary', `${slug(before.name)}.glb`);
    else download(assetToObj({ ...(await assetFile(before.hash)), name: before.name }), 'model/obj', `${slug(before.name)}.obj`);
  };
  const small = { padding: '1px 7px', minHeight: 24 };
  return (
    <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-1.5" data-testid="cast">
      <div className="flex items-center gap-2">
        <input
          className="textf h-6 min-w-0 flex-1"
          aria-label="name of the cast"
          maxLength={110}
          value={plan.name}
          onChange={(e) => setPlan({ ...plan, name: e.target.value })}
          onKeyDown={(e) => e.stopPropagation()}
        />
        <select
          className="textf h-6 w-[96px] px-1"
          aria-label="pivot"
          title={before ? 'an asset that is cast again keeps its pivot' : 'where its pivot lies'}
          disabled={before !== undefined}
          value={plan.pivot}
          onChange={(e) => setPlan({ ...plan, pivot: e.target.value as Pivot })}
        >
          {PIVOTS.map((p) => (
            <option key={p} value={p}>
              {PIVOT_WORDS[p]}
            </option>
          ))}
        </select>
      </div>
      <div className="grid grid-cols-3 items-end gap-1.5">
        <NumberField
          label="pixels a metre"
          className="grid min-w-0 gap-0.5"
          fill
          value={plan.texel}
          min={1}
          max={16384}
          step={64}
          digits={0}
          onCommit={(texel) => setPlan({ ...plan, texel })}
        />
        <label className="grid min-w-0 gap-0.5">
          <span className="label">texture</span>
          <select className="textf h-6 px-1" value={plan.picture} onChange={(e) => setPlan({ ...plan, picture: Number(e.target.value) })}>
            {PICTURES.map((p) => (
              <option key={p} value={p}>
                {p} px
              </option>
            ))}
          </select>
        </label>
        <label className="grid min-w-0 gap-0.5">
          <span className="label">collider</span>
          <select className="textf h-6 px-1" value={plan.collider} onChange={(e) => setPlan({ ...plan, collider: e.target.value as CastPlan['collider'] })}>
            <option>mesh</option>
            <option>box</option>
            <option>none</option>
          </select>
        </label>
      </div>
      <div className="flex items-center gap-1.5">
        <button
          className="act main"
          style={small}
          disabled={busy || plan.name.trim() === '' || !session.writable}
          onClick={() => run(() => castBlocks(session, blocks, { ...plan, name: plan.name.trim() }), 'not cast')}
        >
          {busy ? 'working' : before ? 'cast again' : 'cast'}
        </button>
        <span className="label fig min-w-0 flex-1 truncate">
          {before ? `cast as ${before.name}` : `a texture covers ${(plan.picture / plan.texel).toFixed(2)} m`}
        </span>
        {before && (
          <>
            <button className="act" style={small} onClick={() => void give('glb')}>
              GLB
            </button>
            <button className="act" style={small} onClick={() => void give('obj')}>
              OBJ
            </button>
          </>
        )}
      </div>
      <hr className="rule" />
      {swapped.length > 0 ? (
        <div className="flex items-center justify-between gap-2">
          <span className="label min-w-0 truncate">
            {swapped.length === 1 ? `${swapped[0].name} stands for it` : `${swapped.length} pieces stand for them`}
          </span>
          <button className="act" style={small} onClick={() => swapBack(session, swapped)}>
            swap back
          </button>
        </div>
      ) : (
        <>
          <div className="flex items-center gap-1.5">
            <select
              className="textf h-6 min-w-0 flex-1 px-1"
              aria-label="asset to swap in"
              value={stand?.key ?? ''}
              onChange={(e) => setChosen(e.target.value)}
            >
              {options.length === 0 && <option value="">no asset yet: cast one, or add a GLB in Build</option>}
              {options.map((o) => (
                <option key={o.key} value={o.key}>
                  {o.name}
                </option>
              ))}
            </select>
            <div className="seg" role="group" aria-label="fit">
              {(
                [
                  ['own', 'own size'],
                  ['fitted', 'fitted'],
                ] as const
              ).map(([f, word]) => (
                <button key={f} className="act" style={{ ...small, padding: '1px 4px' }} aria-pressed={fit === f} onClick={() => setFit(f)}>
                  {word}
                </button>
              ))}
            </div>
          </div>
          <div className="flex items-center gap-1.5">
            <button
              className="act"
              style={small}
              disabled={busy || !stand || !session.writable}
              onClick={() => run(() => swapBlocks(session, blocks, stand!, fit), 'not swapped')}
            >
              swap
            </button>
            <span className="label min-w-0 flex-1 truncate" data-testid="difference">
              {mesh && blocks.length === 1
                ? `${fit === 'fitted' ? 'drawn from ' : ''}${differenceText(sizeDifference(blocks[0], mesh))}`
                : stand
                  ? 'one piece for each block'
                  : ''}
            </span>
          </div>
        </>
      )}
    </div>
  );
}
