import { describe, expect, it } from 'vitest';
import { grow, type GrowthInput } from '../growth/grow';
import type { Cover, GrowthWhere, Species } from '../level/objects';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf } from '../testing/levels';
import { speciesSnags } from './species';

const flat = terrainOf(() => 1);
const open: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const asked = (where: GrowthWhere[], more: Partial<Species['rule']> = {}): Species['rule'] => ({ ...open, ...more, where });
const told = (species: Species[], more: Partial<GrowthInput> = {}) => {
  const input = growthOn(flat, species, more);
  return speciesSnags({ ...input, assets: new Map() }, grow(input)).map((s) => `${s.code}: ${s.message}`);
};
const nowhere = (fault: string) => [`species-idle: gorse grows nowhere by its rule: ${fault}`];
const gorse = (rule: Species['rule'], more: Partial<Species> = {}) => testSpecies('gorse', 0, { density: 8, spacing: 1, rule, ...more });

describe('species that grow nothing', () => {
  it('are told with the condition that holds nowhere', () => {
    expect(told([gorse(open)])).toEqual([]);
    expect(told([gorse({ ...open, slope: [20, 90] })])).toEqual(nowhere('slope holds nowhere'));
    expect(told([gorse({ ...open, slope: [20, 90], height: [5, 9] })])).toEqual(nowhere('slope and height hold nowhere'));
    expect(told([gorse(asked([{ is: { by: 'marker', band: [0, 5], soft: 0 } }]))])).toEqual(nowhere('from marker 0 to 5 m holds nowhere'));
    expect(told([gorse(asked([{ is: { by: 'plants', band: [0, 5], soft: 0, species: 'gorse' } }]))])).toEqual(nowhere('from plants 0 to 5 m holds nowhere'));
    expect(told([gorse(open, { density: 0 })])).toEqual(nowhere('its density is 0'));
  });

  it('or with those that hold nowhere together, while conditions joined by "or" are one', () => {
    const near: GrowthWhere = { is: { by: 'marker', band: [0, 8], soft: 0 } };
    const far: GrowthWhere = { is: { by: 'marker', band: [20, 200], soft: 0 } };
    const markers = [{ marker: 'entry' as const, at: [32, 1, 32] as [number, number, number] }];
    expect(told([gorse(asked([near, far]))], { markers })).toEqual(nowhere('from marker 0 to 8 m and from marker 20 to 200 m hold nowhere together'));
    expect(told([gorse(asked([near, { ...far, or: true }]))], { markers })).toEqual([]);
    const noise: GrowthWhere = { is: { by: 'noise', band: [0, 0.3], soft: 0, seed: 1, scale: 40 } };
    expect(told([gorse(asked([noise, { ...noise, not: true }]))])).toEqual(nowhere('patches 0 to 0.3 and not patches 0 to 0.3 hold nowhere together'));
  });

  it('are told where some stand by hand alone, and not where those are all that was wanted', () => {
    const plants = [
      {
        id: 'h',
        version: 1,
        kind: 'plant' as const,
        name: 'h',
        species: 'gorse',
        at: [9, 1, 9] as [number, number, number],
        turn: 0,
        scale: 1,
        gone: false,
        hidden: false,
        out: false,
      },
    ];
    expect(told([gorse({ ...open, slope: [20, 90] })], { plants })).toEqual(nowhere('slope holds nowhere'));
    expect(told([gorse({ ...open, on: false })], { plants })).toEqual([]);
  });

  it('are told where nobody uses them', () => {
    expect(told([gorse({ ...open, on: false })])).toEqual([
      'species-unused: gorse grows nowhere: its rule is off, it covers no ground, and none is set or sown by hand',
    ]);
    expect(told([gorse({ ...open, on: false })], { tiles: new Map([['gorse/sown/0,0', new Int32Array(65 * 65).fill(1024)]]) })).toEqual([]);
  });
});

describe('ground cover that is nowhere', () => {
  const cover = (more: Partial<Cover>): Cover => ({
    id: 'c',
    version: 1,
    kind: 'cover',
    name: 'the cover',
    order: 0,
    surface: 'turf',
    species: 'gorse',
    density: 50,
    on: true,
    ...more,
  });
  const snags = (covers: Cover[]) => {
    const input = growthOn(flat, [gorse({ ...open, on: false })]);
    return speciesSnags({ ...input, assets: new Map(), covers }, grow(input)).map((s) => `${s.code}: ${s.message}`);
  };

  it('is told: its surface is gone or lies nowhere, its species is gone; a species that covers is used', () => {
    expect(snags([cover({})])).toEqual([]);
    expect(snags([cover({ on: false, surface: 'gone' }), cover({})])).toEqual([]);
    expect(snags([cover({ surface: 'gone' })])).toEqual(['cover-idle: the cover covers nothing: its surface is gone']);
    expect(snags([cover({ surface: 'slate' })])).toEqual(['cover-idle: the cover covers nothing: slate lies nowhere']);
    expect(snags([cover({ species: 'gone' })])).toEqual([
      'cover-idle: the cover covers nothing: its species is gone',
      'species-unused: gorse grows nowhere: its rule is off, it covers no ground, and none is set or sown by hand',
    ]);
  });
});
