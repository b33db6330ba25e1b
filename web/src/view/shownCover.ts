import type { InstanceCell } from '@rammer/core/cost/instances';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';

/** So many cells are made before a frame is drawn; the rest come with the next ones. */
const AT_ONCE = 4;
/** Cells round other eyes (an inset, a snapshot) that are kept. */
const OTHERS = 400;

/** What covers the ground round the eye, as it is seen: made a few cells at a time as the eye moves. */
export class ShownCover {
  private own: readonly InstanceCell[] = [];
  private others = new Map<string, InstanceCell>();
  private revision = -1;
  private hidden = '';
  /** all that is there, and what it was made of */
  private all: readonly InstanceCell[] = [];

  constructor(private readonly session: () => Session) {}

  get cells(): readonly InstanceCell[] {
    return this.all;
  }

  /**
   * Makes what is missing round an eye.
   *
   * @param whole makes all of it at once, beside what is there: for a picture from another eye
   * @returns whether what is shown is another, and whether more is to come
   */
  follow(eye: Vec3, whole = false): { changed: boolean; more: boolean } {
    const { cover, plants } = this.session().scene;
    const hidden = plants.species.filter((s) => s.hidden).map((s) => s.id);
    if (cover.revision !== this.revision || this.hidden !== hidden.join()) this.others.clear();
    this.revision = cover.revision;
    this.hidden = hidden.join();
    const { cells, left } = cover.around(eye, whole ? undefined : AT_ONCE);
    const seen = hidden.length === 0 ? cells : cells.filter((c) => !hidden.includes(c.owner));
    if (whole) {
      if (this.others.size > OTHERS) this.others.clear();
      for (const c of seen) this.others.set(c.key, c);
    } else this.own = seen;
    const all = [...new Map([...this.others.values(), ...this.own].map((c) => [c.key, c])).values()];
    const changed = all.length !== this.all.length || all.some((c, i) => c !== this.all[i]);
    if (changed) this.all = all;
    return { changed, more: left > 0 };
  }
}
