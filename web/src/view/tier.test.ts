import { describe, expect, it } from 'vitest';
import { inSoftware, TierByFrames } from './tier';

const frames = (tier: TierByFrames, ms: number, n: number, coarse = false) => {
  for (let i = 0; i < n; i++) tier.note(ms, coarse);
};

describe('the tier of a machine', () => {
  it('is full after six quick frames running, and stays plain where one in between was not', () => {
    const quick = new TierByFrames('plain');
    frames(quick, 6, 5);
    expect(quick.now).toBe('plain');
    frames(quick, 6, 1);
    expect(quick.now).toBe('full');
    const uneven = new TierByFrames('plain');
    for (let i = 0; i < 40; i++) uneven.note(i % 5 === 4 ? 30 : 6, false);
    expect(uneven.now).toBe('plain');
  });

  it('is not full where quick frames were drawn with less than all', () => {
    const coarse = new TierByFrames('plain');
    frames(coarse, 6, 40, true);
    expect(coarse.now).toBe('plain');
  });

  it('goes back to plain where the full one takes too long, and is not asked again', () => {
    const tier = new TierByFrames('full');
    frames(tier, 20, 100);
    expect(tier.now).toBe('full');
    frames(tier, 70, 6);
    expect(tier.now).toBe('plain');
    frames(tier, 4, 100);
    expect(tier.now).toBe('plain');
  });

  it('is what somebody chose, whatever the frames', () => {
    const tier = new TierByFrames('plain');
    expect([tier.of('auto'), tier.of('full'), tier.of('plain')]).toEqual(['plain', 'full', 'plain']);
  });

  it('knows a renderer in software by what it calls itself', () => {
    const gl = (name?: string) =>
      ({ getExtension: () => (name ? { UNMASKED_RENDERER_WEBGL: 1 } : null), getParameter: () => name }) as unknown as WebGL2RenderingContext;
    expect(inSoftware(gl('ANGLE (Google, Vulkan 1.3.0 (SwiftShader Device (Subzero)), SwiftShader driver)'))).toBe(true);
    expect(inSoftware(gl('llvmpipe (LLVM 15.0.6, 256 bits)'))).toBe(true);
    expect(inSoftware(gl('ANGLE (Some GPU, D3D11)'))).toBe(false);
    expect(inSoftware(gl())).toBe(false);
  });
});
