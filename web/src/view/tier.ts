import type { Tier, TierChoice } from '../store/picture';

/** So many frames are looked at before a tier is judged. */
const FRAMES = 6;
/** A plain frame of less than this leaves room for the full one; a full one of more is too much, milliseconds. */
const ROOM_MS = 14;
const TOO_LONG_MS = 45;

/** Which tier a machine draws, by how long its frames take. One that was too slow for the full one is not asked again. */
export class TierByFrames {
  private run = 0;
  private failed = false;

  constructor(public now: Tier) {}

  /** A frame in motion took so long. @param coarse whether it was drawn with less than all */
  note(ms: number, coarse: boolean): void {
    const turn = this.now === 'plain' ? ms < ROOM_MS && !coarse && !this.failed : ms > TOO_LONG_MS || coarse;
    this.run = turn ? this.run + 1 : 0;
    if (this.run < FRAMES) return;
    this.run = 0;
    if (this.now === 'full') this.failed = true;
    this.now = this.now === 'plain' ? 'full' : 'plain';
  }

  /** What is drawn where somebody has chosen, or left it to the machine. */
  of(choice: TierChoice): Tier {
    return choice === 'auto' ? this.now : choice;
  }
}

/** Whether a context draws in software: what it calls itself. */
export function inSoftware(gl: WebGL2RenderingContext): boolean {
  const info = gl.getExtension('WEBGL_debug_renderer_info');
  const name = info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
  return /swiftshader|llvmpipe|softpipe|software|basic render/i.test(name);
}
