import type { Session } from '../store/session';
import type { Look } from './look';

/** So long after a change the feet of things are mixed with their ground again, milliseconds. */
const CONTACT_MS = 250;

/** The ground at the feet of what stands in it, made a moment after the last change; where nothing stands or the ground is as it was, nothing is done. */
export class Contact {
  private timer?: ReturnType<typeof setTimeout>;
  private stale = true;

  constructor(
    private readonly session: Session,
    private readonly look: Look,
    private readonly request: () => void,
  ) {}

  /** @param ground whether the ground looks other than it did, not just what stands in it */
  changed(ground: boolean): void {
    this.stale ||= ground;
    clearTimeout(this.timer);
    const { scene } = this.session;
    if (!this.stale || scene.solids.all.length + scene.placed.pieces.length === 0) return;
    this.timer = setTimeout(() => {
      this.stale = false;
      this.look.setContact(this.session.terrain, this.session.scene.ground.raster);
      this.request();
    }, CONTACT_MS);
  }

  dispose(): void {
    clearTimeout(this.timer);
  }
}
