import type { ReactNode } from 'react';
import type { Device } from '@rammer/core/cost/frame';
import type { AssetCard } from '@rammer/core/kit/card';
import { textureBytes } from '@rammer/core/kit/material';
import type { MendedMesh } from '../../workers/asset.worker';

const WORN: Record<string, string> = {
  baseColour: 'colour',
  metalRough: 'metal and roughness',
  normal: 'normals',
  occlusion: 'occlusion',
  emission: 'glow',
  specular: 'specular',
  specularColour: 'specular colour',
};

/** Figures of a mesh, and how they were before where it takes the place of another. */
export function CardFacts({ look, before, device }: { look: MendedMesh; before?: AssetCard; device: Device }) {
  const { card } = look;
  const pictures = `${card.textures.length} ${card.textures.length === 1 ? 'picture' : 'pictures'}`;
  const size = (c: AssetCard) => c.size.map((v) => v.toFixed(2)).join(' x ');
  const pivot = (c: AssetCard) => (typeof c.pivot === 'string' ? `at its ${c.pivot}` : `${c.pivot.map((v) => v.toFixed(2)).join(', ')} m from its foot`);
  const surface = (c: AssetCard) => `${c.closed ? 'closed' : `open, ${c.openEdges} edges`}${c.hollow.length > 0 ? `; hollow ${c.hollow.join(', ')}` : ''}`;
  const rows: [string, string, string | undefined][] = [
    ['size', `${size(card)} m`, before && size(before)],
    ['pivot', pivot(card), before && pivot(before)],
    ['triangles', card.triangles.join(' / '), before?.triangles.join(' / ')],
    ['corners', card.vertices.join(' / '), before?.vertices.join(' / ')],
    ['surface', surface(card), before && surface(before)],
    [
      'collider',
      card.collider.shapes > 0 ? `${card.collider.kind}: ${card.collider.shapes} of ${card.collider.triangles} triangles` : card.collider.kind,
      before?.collider.kind,
    ],
    ...(card.trunk > 0 ? ([['trunk', `${card.trunk.toFixed(2)} m`, before && `${before.trunk.toFixed(2)} m`]] as [string, string, string | undefined][]) : []),
    ['on the GPU', megabytes(card.bytes), before && megabytes(before.bytes)],
    ...(card.texel
      ? ([['texels', `${card.texel.mean.toFixed(0)} a metre (${card.texel.least.toFixed(0)} to ${card.texel.most.toFixed(0)})`, undefined]] as [
          string,
          string,
          string | undefined,
        ][])
      : []),
  ];
  return (
    <div className="grid gap-2 px-3 py-2">
      <table className="w-full" aria-label="figures">
        <tbody>
          {rows.map(([name, value, was]) => (
            <tr key={name} className="align-top">
              <th scope="row" className="label w-[72px] py-0.5 text-left font-normal">
                {name}
              </th>
              <td className="fig py-0.5">
                {value}
                {was !== undefined && was !== value && <span style={{ color: 'var(--ink-2)' }}> before: {was}</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <List title={`${card.materials.length} ${card.materials.length === 1 ? 'material' : 'materials'}`}>
        {card.materials.map((m) => (
          <li key={m.name} className="flex gap-2">
            <span className="min-w-0 flex-1 truncate" title={m.wears.map((w) => WORN[w]).join(', ')}>
              {m.name}
            </span>
            <span className="fig shrink-0" style={{ color: 'var(--ink-2)' }}>
              {m.alpha === 'opaque' ? '' : `${m.alpha} `}
              {m.doubleSided ? 'both sides ' : ''}
              {m.triangles > 0 ? `${m.triangles} tri` : ''}
            </span>
          </li>
        ))}
      </List>
      <p className="label m-0">
        On {device.name} each material more is a draw, <span className="fig">{device.cpu.draw} us</span>, wherever it is seen; each picture more of 1024 pixels
        a side takes <span className="fig">{((textureBytes(1024, 1024) / device.memory) * 100).toFixed(2)} %</span> of its memory. This one takes{' '}
        <span className="fig">{((card.bytes / device.memory) * 100).toFixed(2)} %</span>.
      </p>
      {card.textures.length > 0 && (
        <List title={`${pictures}, ${megabytes(card.textures.reduce((s, t) => s + t.gpuBytes, 0))} on the GPU`}>
          {card.textures.map((t, i) => (
            <li key={i} className="flex gap-2">
              <span className="min-w-0 flex-1 truncate" title={`${t.name}: ${t.as.map((a) => WORN[a]).join(', ')}`}>
                {t.as.map((a) => WORN[a]).join(', ') || t.name}
              </span>
              <span className="fig shrink-0" style={{ color: 'var(--ink-2)' }}>
                {t.width} x {t.height} {t.mime.replace('image/', '').toUpperCase()}, {megabytes(t.bytes)}
              </span>
            </li>
          ))}
        </List>
      )}
      {card.notes.length > 0 && (
        <List title="Read otherwise">
          {card.notes.map((n) => (
            <li key={n}>{n}</li>
          ))}
        </List>
      )}
    </div>
  );
}

function List({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div>
      <h3 className="m-0 text-[13px] font-semibold">{title}</h3>
      <ul className="m-0 list-none p-0">{children}</ul>
    </div>
  );
}

const megabytes = (bytes: number): string => (bytes >= 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1000))} kB`);
