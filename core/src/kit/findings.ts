import type { BodyFigures } from '../body/bodies';
import type { Mend } from '../level/mend';
import type { Vec3 } from '../num/vec';
import { assetBounds, assetFacts, type Asset } from './asset';
import { pivotOf } from './mend/move';
import { weldable } from './mend/weld';
import { packable } from './mend/pictures';
import { openness } from './openSides';
import { realHeights, UNLIKELY } from './realSizes';
import { assetTexelDensity } from './texelDensity';

/** Something about a mesh that looks wrong, and what mends it at one click: the first is what we would do. */
export interface Finding {
  about: 'unit' | 'axis' | 'pivot' | 'weld' | 'normals' | 'hollow' | 'lods' | 'collider' | 'trunk' | 'materials' | 'pictures' | 'pack' | 'distant';
  says: string;
  mends: { label: string; mend: Mend }[];
}

/** Units that lengths are mistaken for metres in, as factors: the likelier first. */
const UNITS: readonly [factor: number, name: string][] = [
  [0.01, 'centimetres'],
  [0.001, 'millimetres'],
  [0.0254, 'inches'],
  [100, 'hundreds of metres'],
  [0.3048, 'feet'],
  [1000, 'kilometres'],
  [1 / 0.0254, 'a hundredth of what its inches are'],
  [10, 'tens of metres'],
  [0.1, 'decimetres'],
];
const UPS = ['+z', '-z', '+x', '-x'] as const;

/** Without tags the body is the measure: nothing is taller than so many of it, or smaller than such a share. */
const TALLEST = 30;
const SMALLEST = 1 / 60;
/** LODs are offered from so many triangles on, and mesh colliders doubted; a last LOD of no more needs no picture. */
const MANY = { lods: 1500, collider: 400, last: 24 };

/**
 * What looks wrong about a mesh: its unit by the heights its tags or name stand for, else by the body; axis, pivot, doubled corners,
 * normals, hollow sides, LODs, collider, trunk, materials.
 */
export function findingsOf(asset: Asset, body: Pick<BodyFigures, 'height'>): Finding[] {
  return [
    ...sizeFindings(asset, body),
    ...pivotFinding(asset),
    ...weldFinding(asset),
    ...normalsFinding(asset),
    ...hollowFinding(asset),
    ...materialsFinding(asset),
    ...pictureFindings(asset),
    ...lodsFinding(asset),
    ...distantFinding(asset),
    ...colliderFindings(asset),
  ];
}

function sizeFindings(asset: Asset, { height }: Pick<BodyFigures, 'height'>): Finding[] {
  const { min, max } = assetBounds(asset);
  const size: Vec3 = [max[0] - min[0], max[1] - min[1], max[2] - min[2]];
  const range = realHeights(asset);
  const along = (up: string): number => size[up[1] === 'x' ? 0 : up[1] === 'y' ? 1 : 2];
  const fits = (h: number): boolean =>
    range ? h >= range[0] * UNLIKELY.small && h <= range[1] * UNLIKELY.large : h <= height * TALLEST && h >= height * SMALLEST;
  // Without tags its longest side is looked at: what lies flat is not small.
  const measured = (up: string): number => (range ? along(up) : Math.max(...size));
  const lying = lyingUp(asset, size);
  const guess = (ups: readonly string[]): { up: string; factor: number; name: string } | undefined => {
    for (const up of ups) if (fits(measured(up))) return { up, factor: 1, name: '' };
    for (const up of ups) for (const [factor, name] of UNITS) if (fits(measured(up) * factor)) return { up, factor, name };
    return undefined;
  };
  // Where its foot says which way is up, that way is tried first; else only tags can tell.
  const found = guess(lying ? [lying, '+y'] : range ? ['+y', ...UPS] : ['+y']);
  const out: Finding[] = [];
  const up = found?.up ?? lying ?? '+y';
  if (up !== '+y')
    out.push({
      about: 'axis',
      says: `it lies on its side: ${up} of its file seems to be up`,
      mends: [up, ...UPS.filter((u) => u !== up), '-y'].map((u) => ({ label: `${u} is up`, mend: { mend: 'axis', up: u as '+z' } })),
    });
  const now = along(up);
  if (found && found.factor !== 1)
    out.push({
      about: 'unit',
      says: range
        ? `${figure(now)} m high, where such things are ${range[0]} to ${range[1]} m: its file seems to be in ${found.name}`
        : `${figure(Math.max(...size))} m at its longest beside a body of ${height} m: its file seems to be in ${found.name}`,
      mends: [found.factor, ...UNITS.map(([f]) => f).filter((f) => f !== found.factor && fits(measured(up) * f))]
        .slice(0, 3)
        .map((factor) => ({ label: `to ${figure(now * factor)} m`, mend: { mend: 'unit', factor } })),
    });
  else if (!found && range)
    out.push({
      about: 'unit',
      says: `${figure(now)} m high, where such things are ${range[0]} to ${range[1]} m`,
      mends: [{ label: `to ${figure((range[0] + range[1]) / 2)} m`, mend: { mend: 'unit', factor: (range[0] + range[1]) / 2 / now } }],
    });
  return out;
}

const figure = (metres: number): string => (metres >= 100 ? metres.toFixed(0) : metres >= 1 ? metres.toFixed(2) : metres.toFixed(3));

/** The axis its foot stands on, where that is not the level's: it begins at zero there, and at zero is its middle along y. */
function lyingUp(asset: Asset, size: Vec3): (typeof UPS)[number] | undefined {
  const { min, max } = assetBounds(asset);
  const near = Math.max(...size) * 0.015;
  if (Math.abs(min[1]) <= near || size[1] <= near) return undefined;
  const centred = Math.abs(min[1] + max[1]) <= Math.max(...size) * 0.25;
  if (!centred) return undefined;
  if (Math.abs(min[2]) <= near && size[2] > near) return '+z';
  if (Math.abs(max[2]) <= near && size[2] > near) return '-z';
  return undefined;
}

function pivotFinding(asset: Asset): Finding[] {
  const at = pivotOf(asset);
  if (typeof at === 'string') return [];
  const far = Math.sqrt(at[0] * at[0] + at[1] * at[1] + at[2] * at[2]);
  return [
    {
      about: 'pivot',
      says: `its pivot lies ${figure(far)} m from the middle of its foot`,
      mends: (['foot', 'centre', 'corner'] as const).map((place) => ({ label: `to its ${place}`, mend: { mend: 'pivot', at: place } })),
    },
  ];
}

const longest = (asset: Asset): number => Math.max(...assetFacts(asset).size);

function weldFinding(asset: Asset): Finding[] {
  const within = Math.min(1, longest(asset) * 1e-5);
  const { spare, of } = weldable(asset, within);
  if (spare < 8 || spare < of * 0.02) return [];
  return [{ about: 'weld', says: `${spare} of ${of} corners are doubled`, mends: [{ label: 'weld', mend: { mend: 'weld', within } }] }];
}

function normalsFinding(asset: Asset): Finding[] {
  let [none, wrong, flat, all] = [0, 0, 0, 0];
  for (const { positions: p, normals: n, indices } of asset.lods[0]) {
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
      const u = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
      const w = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
      const f = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
      const turned = (o: number) => n[o] * f[0] + n[o + 1] * f[1] + n[o + 2] * f[2];
      all++;
      if ([a, b, c].some((o) => n[o] === 0 && n[o + 1] === 0 && n[o + 2] === 0)) none++;
      else if (turned(a) < 0 && turned(b) < 0 && turned(c) < 0) wrong++;
      else if ([b, c].every((o) => n[o] === n[a] && n[o + 1] === n[a + 1] && n[o + 2] === n[a + 2])) flat++;
    }
  }
  const mends = [40, 0, 180].map((crease) => ({
    label: crease === 0 ? 'make flat' : crease === 180 ? 'make round' : 'make anew',
    mend: { mend: 'normals', crease } as Mend,
  }));
  if (none + wrong > all * 0.01)
    return [{ about: 'normals', says: none > wrong ? `${none} triangles have no normals` : `normals of ${wrong} triangles look into it`, mends }];
  // Many small faces that are all flat were round once.
  if (all > 300 && flat > all * 0.95) return [{ about: 'normals', says: `its ${all} triangles are all flat: it may have lost its normals`, mends }];
  return [];
}

function hollowFinding(asset: Asset): Finding[] {
  const { hollow } = openness(asset);
  if (hollow.length === 0) return [];
  return [
    {
      about: 'hollow',
      says: `hollow: from ${hollow.join(', ')} one sees through its faces from behind`,
      mends: asset.materials ? [{ label: 'draw both sides', mend: { mend: 'sides' } }] : [],
    },
  ];
}

function materialsFinding(asset: Asset): Finding[] {
  // Its distant picture is drawn instead of all others.
  const count = (asset.materials?.length ?? 0) - (asset.distant ? 1 : 0);
  if (count < 3) return [];
  return [
    {
      about: 'materials',
      says: `${count} materials: ${count} draw calls wherever it stands`,
      mends: [2, 1].map((to) => ({ label: `merge to ${to}`, mend: { mend: 'materials', to } })),
    },
  ];
}

/** More pixels a metre than this are seen by nobody: the wanted density at three metres, times the band it may lie in. */
const MOST_TEXELS = 1024;

function pictureFindings(asset: Asset): Finding[] {
  const out: Finding[] = [];
  const widest = Math.max(0, ...(asset.textures ?? []).filter((t) => t.mime !== 'image/ktx2').map((t) => Math.max(t.width, t.height)));
  const texel = assetTexelDensity(asset)?.mean ?? 0;
  if (widest > 2048 || (widest > 512 && texel > MOST_TEXELS)) {
    const to = [widest / 2, widest / 4].map((v) => Math.max(16, Math.floor(v)));
    out.push({
      about: 'pictures',
      says: texel > MOST_TEXELS ? `${texel.toFixed(0)} pixels a metre: more than ${MOST_TEXELS} are seen by nobody` : `pictures of ${widest} pixels a side`,
      mends: to.map((most) => ({ label: `to ${most}`, mend: { mend: 'pictures', most } })),
    });
  }
  const pairs = packable(asset);
  if (pairs > 0)
    out.push({
      about: 'pack',
      says: `${pairs === 1 ? 'a material wears' : `${pairs} materials wear`} occlusion and roughness from two pictures`,
      mends: [{ label: 'pack in one', mend: { mend: 'pack' } }],
    });
  return out;
}

function lodsFinding(asset: Asset): Finding[] {
  const [fine] = assetFacts(asset).triangles;
  if (asset.lods.length > 1 || fine < MANY.lods) return [];
  return [
    {
      about: 'lods',
      says: `${fine} triangles however far it is: it has no LODs`,
      mends: [
        { label: 'make 3', mend: { mend: 'lods', shares: [0.4, 0.15, 0.05] } },
        { label: 'make 2', mend: { mend: 'lods', shares: [0.3, 0.08] } },
      ],
    },
  ];
}

/** Plants and props stand by the hundred: far away a picture of them is enough. */
function distantFinding(asset: Asset): Finding[] {
  const [fine] = assetFacts(asset).triangles;
  if (asset.distant || !asset.materials || asset.lods.length < 2 || fine < MANY.lods || (asset.role !== 'plant' && asset.role !== 'prop')) return [];
  // A box in one draw is as cheap as a picture.
  if (assetFacts(asset).triangles.at(-1)! <= MANY.last && asset.lods.at(-1)!.length === 1) return [];
  return [
    {
      about: 'distant',
      says: `far away it is still ${assetFacts(asset).triangles.at(-1)} triangles and ${asset.lods.at(-1)!.length} draws`,
      mends: [96, 160].map((side) => ({ label: `picture it from 8 sides, ${side} px`, mend: { mend: 'distant', side } })),
    },
  ];
}

function colliderFindings(asset: Asset): Finding[] {
  const { triangles, size } = assetFacts(asset);
  if (asset.role === 'plant') {
    if (asset.trunk > 0 || size[1] < 1.5) return [];
    return [{ about: 'trunk', says: 'nothing of it stops a body: it has no trunk', mends: [{ label: 'find its trunk', mend: { mend: 'trunk' } }] }];
  }
  if (asset.collider !== 'mesh' || triangles[0] < MANY.collider) return [];
  const as = (kind: 'parts' | 'hull' | 'box' | 'cylinder', label: string) => ({ label, mend: { mend: 'collider', as: kind, parts: 8 } as Mend });
  return [
    {
      about: 'collider',
      says: `a body is stopped by all its ${triangles[0]} triangles`,
      mends: [as('parts', 'by parts'), as('hull', 'by its hull'), as('box', 'by a box'), as('cylinder', 'by a cylinder')],
    },
  ];
}
