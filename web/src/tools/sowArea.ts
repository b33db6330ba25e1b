import { batchList } from '@rammer/core/cost/batches';
import { viewTally } from '@rammer/core/cost/tally';
import { DEVICES, frameOf } from '@rammer/core/cost/frame';
import { instanceDrawables } from '@rammer/core/cost/instances';
import { plantCells } from '@rammer/core/cost/plantCells';
import { heightAt } from '@rammer/core/earth/sample';
import type { Plants } from '@rammer/core/growth/plants';
import type { AreaPlan } from '@rammer/core/growth/sowArea';
import { settingsOf } from '@rammer/core/level/level';
import { outlineFault } from '@rammer/core/level/objects';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import { signedArea, type Point2 } from '@rammer/core/num/outline';
import type { Vec3 } from '@rammer/core/num/vec';
import { speciesAtHand, usePlanting, type Area } from '../store/planting';
import type { Session } from '../store/session';
import type { LevelView } from '../view/LevelView';
import { growthWorker } from '../workers/pool';
import { drawTool } from './drawTool';
import type { Tool, ToolContext } from './tool';

/** Draws an outline to be sown; it stays until it is sown or dropped, and says what would come. */
export function areaTool(context: ToolContext): Tool {
  const drawing = drawTool(context, {
    what: 'area',
    closed: true,
    done(corners) {
      const outline = corners.map(([x, , z]): Point2 => [x, z]);
      const fault = outlineFault(outline);
      if (fault) context.session.say(fault, true);
      else planArea(context, { corners, outline });
      return !fault;
    },
  });
  return {
    ...drawing,
    begin(e) {
      usePlanting.setState({ area: undefined });
      return drawing.begin(e);
    },
    cancel() {
      usePlanting.setState({ area: undefined });
      drawing.cancel();
    },
    marks() {
      const { area } = usePlanting.getState();
      if (!area) return drawing.marks!();
      const [first] = area.corners;
      return [
        { kind: 'ring', points: [...area.corners, first], dashed: false },
        { kind: 'label', at: first, text: `${Math.abs(signedArea(area.outline)).toFixed(0)} m²` },
      ];
    },
  };
}

/** What is asked of an area: the density, from a total where that is what was typed. */
function densityOf({ outline }: Pick<Area, 'outline'>, own: number): number {
  const { want } = usePlanting.getState();
  if (want.by === 'total') return (want.total / Math.max(0.01, Math.abs(signedArea(outline)))) * 100;
  return want.density ?? own;
}

/** The same of the whole level. */
export function planLevel(context: { session: Session; view: LevelView }): void {
  const { terrain } = context.session;
  const { width, depth } = terrain.grid;
  const outline: Point2[] = [
    [0, 0],
    [width, 0],
    [width, depth],
    [0, depth],
  ];
  planArea(context, { outline, corners: outline.map(([x, z]): Vec3 => [x, heightAt(terrain, x, z), z]) });
}

/** Reckons what sowing an area would come to, and what that costs from where one looks. Nothing is changed. */
export function planArea(
  { session, view }: { session: Session; view: LevelView },
  { corners, outline }: { corners: readonly Vec3[]; outline: readonly Point2[] },
): void {
  const species = speciesAtHand(session.level);
  if (!species) {
    session.say('add a species first: pick a plant in the library', true);
    return;
  }
  const area: Area = { corners, outline, species: species.id };
  usePlanting.setState({ area });
  const tell = (more: Partial<Area>) => {
    if (usePlanting.getState().area === area) usePlanting.setState({ area: { ...area, ...more } });
  };
  const { clear, by, total } = usePlanting.getState().want;
  void growthWorker()
    .area({ species: species.id, outline: [...outline], density: densityOf(area, species.density), clear, ...(by === 'total' ? { total } : {}) })
    .then((plan) => tell(typeof plan === 'string' ? { fault: plan } : { plan, cost: costOf(session, view, plan) }))
    .catch((error: Error) => tell({ fault: `it could not be reckoned: ${error.message}` }));
}

/** The same area again, where what is asked or the species at hand is another. */
export function planAgain(context: { session: Session; view: LevelView }): void {
  const { area } = usePlanting.getState();
  if (area) planArea(context, area);
}

/** What plants that would come cost on the target device from where one looks. */
function costOf(session: Session, view: LevelView, { added }: AreaPlan): NonNullable<Area['cost']> {
  const device = DEVICES[settingsOf(session.level).device];
  const { spacing } = session.terrain.grid;
  const { assets } = session.scene.placed;
  const { byId } = session.scene.plants;
  const costs = view.costs();
  // Cells of their own beside those that are there: one may be drawn with others, the other not.
  const own = (key: string) => `sown/${key}`;
  const cells = instanceDrawables(plantCells([added as Plants], byId, assets), assets, byId);
  const more = cells.map((d) => ({ ...d, key: own(d.key), ...(d.holds ? { holds: d.holds.map(own) } : {}) }));
  const frame = (list: typeof costs) => frameOf(device, viewTally(list, view.camera, spacing).all).frame;
  const triangles = batchList(more, view.camera, spacing, 1).reduce((sum, b) => sum + b.triangles, 0);
  return { ms: frame([...costs, ...more]) - frame(costs), triangles };
}

/** Sows the area as it was reckoned. */
export function sowPlanned(session: Session): boolean {
  const { area } = usePlanting.getState();
  const species = session.scene.plants.byId.get(area?.species ?? '');
  if (!area?.plan || !species) return false;
  const { deltas } = area.plan;
  if (deltas.length === 0) {
    session.say(`nothing to sow: ${species.name} stands there as it was asked`);
    usePlanting.setState({ area: undefined });
    return true;
  }
  const done = session.commit(
    { kind: 'stroke', tiles: deltas.map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) })) },
    `sow ${area.plan.area.toFixed(0)} m² with ${species.name}`,
  );
  if (done) usePlanting.setState({ area: undefined });
  return done;
}
