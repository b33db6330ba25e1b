import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { readAsset } from '@rammer/core/io/assetGlb';
import { assetFacts, type Asset } from '@rammer/core/kit/asset';
import { findingsOf } from '@rammer/core/kit/findings';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';

const folder = (name: string) => new URL(`../${name}/`, import.meta.url);

/** The shipped assets as their files say them, in the order of the library. */
export async function shipped(): Promise<{ file: string; bytes: number; asset: Asset }[]> {
  const out = [];
  for (const file of readdirSync(folder('kit')).sort()) {
    const bytes = new Uint8Array(readFileSync(new URL(file, folder('kit'))));
    const read = await readAsset(bytes, file);
    if (!read.ok) throw new Error(read.message);
    out.push({ file, bytes: bytes.length, asset: read.value });
  }
  return out;
}

const figure = (v: number) => v.toFixed(2);

/** README.md of this folder: the counts are read from the files, so that it cannot say what is not so. */
export async function readme(): Promise<string> {
  const all = await shipped();
  const grounds = readdirSync(folder('grounds')).map((f) => [f, readFileSync(new URL(f, folder('grounds'))).length] as const);
  const rows = all.map(({ file, bytes, asset }) => {
    const { size, triangles } = assetFacts(asset);
    const found = findingsOf(asset, SHIPPED_BODIES.adult).map((f) => f.says);
    return [
      file,
      asset.role,
      size.map(figure).join(' x '),
      (asset.real ?? []).join(' to '),
      triangles.join(' / '),
      String(asset.materials!.length - (asset.distant ? 1 : 0)),
      asset.role === 'plant' ? (asset.trunk > 0 ? `trunk, ${asset.trunk} m` : 'none') : asset.collider,
      String(Math.round(bytes / 1000)),
      found.join('; ') || '-',
    ];
  });
  const total = all.reduce((s, a) => s + a.bytes, 0) + grounds.reduce((s, [, n]) => s + n, 0);
  const count = (role: string) => all.filter((a) => a.asset.role === role).length;
  return `# The demo's assets

Everything here is made by the scripts of \`src/made\` and is under this project's licence; nothing was taken from elsewhere.
\`npm run demo\` makes all of it again (about three minutes): the assets, this page, and both levels.
\`node --import tsx demo/src/kit.ts birch crate\` makes those alone whose names hold one of the words.

${count('piece')} pieces on a 2 m grid with storeys of 3 m, ${count('prop')} props and ${count('plant')} plants as glTF,
and ${grounds.length} pictures of the ground: ${(total / 1e6).toFixed(1)} MB.
Stuffs (masonry, sawn slate, roof slates, timber, iron, sacking, two barks) are painted as heights and colours, 512 pixels a
metre on what one stands before; their normals come from the heights. Assets that wear the same stuff carry the same bytes, which
are on the GPU, and in the wall's memory, once. Occlusion is traced by rays for every LOD and lies in the second texture
coordinates. Plants have leaves and twigs as triangles near by, cards drawn from them further off, and a picture from eight sides
far away; the lying ones have none of these.

| file | role | size, m | real heights, m | triangles by LOD | materials | stops a body | KB | what the checks find |
|---|---|---|---|---|---|---|---|---|
${rows.map((r) => `| ${r.join(' | ')} |`).join('\n')}

What the checks find was left in on purpose, so that there is something to mend: pivots that lie over the foot (walls reach
0.4 m into uneven ground), sides left open, more materials than two, a collider of all triangles, pictures finer than anyone sees.
A level's checks find more, which was built in as well: the powder store is let in so far that its door can only be crouched
through and its wall does not join, two slate stacks are twins, roofs and ridges are open below, which one sees inside the sheds,
a stair leads to no storey, and one heather stands on gravel. The rails of the incline and the railing of the dock are laid lines.

## Pictures of the ground

${grounds.map(([f, n]) => `- \`grounds/${f}\`, 1024 x 1024, colours with how far they stand out as alpha, ${Math.round(n / 1000)} KB`).join('\n')}

The full picture takes its normals from the heights; heath wears turf gone brown, and broken stone the gravel, coarser.
`;
}

if (process.argv[1]?.endsWith('readme.ts')) writeFileSync(new URL('../README.md', import.meta.url), await readme());
