import { emptyTally, type Tally } from './tally';

/** A target device. Coefficients are ours, published in docs/numbers; times are estimates. */
export interface Device {
  name: string;
  target: number;
  width: number;
  height: number;
  /** ms; us a draw; us an instance */
  cpu: { base: number; draw: number; instance: number };
  /** ms; ns a vertex, a triangle, a pixel, a pixel of overdraw */
  gpu: { base: number; vertex: number; triangle: number; pixel: number; overdraw: number };
  /** bytes */
  memory: number;
}

export const DEVICES = {
  'pocket-30': {
    name: 'Pocket 30',
    target: 33.3,
    width: 1280,
    height: 720,
    cpu: { base: 4, draw: 28, instance: 0.02 },
    gpu: { base: 3, vertex: 2.2, triangle: 1.1, pixel: 4.5, overdraw: 3.4 },
    memory: 700e6,
  },
  'den-60': {
    name: 'Den 60',
    target: 16.6,
    width: 1920,
    height: 1080,
    cpu: { base: 3, draw: 11, instance: 0.008 },
    gpu: { base: 2, vertex: 0.42, triangle: 0.2, pixel: 1.1, overdraw: 0.75 },
    memory: 3000e6,
  },
  'visor-72': {
    name: 'Visor 72',
    target: 13.8,
    width: 3600,
    height: 1800,
    cpu: { base: 3, draw: 16, instance: 0.01 },
    gpu: { base: 2.5, vertex: 0.9, triangle: 0.45, pixel: 0.8, overdraw: 1 },
    memory: 1500e6,
  },
} satisfies Record<string, Device>;

/** The budget line stands at this share of the target. */
export const BUDGET_SHARE = 0.8;

export interface Frame {
  /** ms */
  cpu: number;
  gpu: number;
  frame: number;
  governs: 'CPU' | 'GPU';
}

/**
 * Estimated frame time of what is drawn.
 *
 * cpu = base + draws a + instances b; gpu = base + vertices c + triangles d + pixels (e + overdraw f);
 * frame = max(cpu, gpu).
 */
export function frameOf(device: Device, drawn: Tally): Frame {
  const cpu = device.cpu.base + (drawn.draws * device.cpu.draw + drawn.instances * device.cpu.instance) / 1000;
  const pixels = device.width * device.height;
  const gpu =
    device.gpu.base +
    (drawn.vertices * device.gpu.vertex + drawn.triangles * device.gpu.triangle + pixels * (device.gpu.pixel + drawn.overdraw * device.gpu.overdraw)) / 1e6;
  return { cpu, gpu, frame: Math.max(cpu, gpu), governs: cpu > gpu ? 'CPU' : 'GPU' };
}

/**
 * What a part adds to the side that governs, ms. The base (its pixels included) and the terms of all
 * parts sum to the frame.
 */
export function termOf(device: Device, part: Tally, governs: Frame['governs']): number {
  const with_ = frameOf(device, part);
  const base = frameOf(device, emptyTally());
  return governs === 'CPU' ? with_.cpu - base.cpu : with_.gpu - base.gpu;
}

/** Milliseconds of a frame that nothing of the level spends. @param governs which of the two sides of the frame is the longer */
export const baseTerm = (device: Device, governs: Frame['governs']): number => {
  const base = frameOf(device, emptyTally());
  return governs === 'CPU' ? base.cpu : base.gpu;
};

/** What the frame would save without a part of what is drawn, ms: not its share, since the other side may govern then. */
export function savesWithout(device: Device, all: Tally, part: Tally): number {
  const rest = Object.fromEntries(Object.entries(all).map(([k, v]) => [k, v - part[k as keyof Tally]])) as unknown as Tally;
  return frameOf(device, all).frame - frameOf(device, rest).frame;
}
