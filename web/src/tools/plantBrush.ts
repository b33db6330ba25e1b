import { handDab, handRule, HandRoom, type HandBrush, type HandCast, type HandSpecies } from '@rammer/core/growth/brushByHand';
import { cellRange, PLANT_CELL, plantGrid } from '@rammer/core/growth/plantGrid';
import { PLANT_STRIDE } from '@rammer/core/growth/plants';
import { readyWhere, whereSource, type WhereSource } from '@rammer/core/growth/where/index';
import { dabsBetween } from '@rammer/core/kit/dress';
import { isMade, poseOf } from '@rammer/core/level/instance';
import { presentPlants, settingsOf } from '@rammer/core/level/level';
import type { Surface } from '@rammer/core/level/lay/dressed';
import type { Piece, PlantObject } from '@rammer/core/level/objects';
import type { Rect } from '@rammer/core/earth/rect';
import { distance, type Vec3 } from '@rammer/core/num/vec';
import { groundAlongGrid } from '@rammer/core/surface/groundAt';
import { newId, nextName } from '../store/names';
import { useGround } from '../store/groundDraft';
import { chosenSpecies, usePlanting } from '../store/planting';
import type { Session } from '../store/session';
import { ringAt } from './brushRing';
import { asPiece } from './dressed';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** The most plants of one stroke: each is a thing of the level from then on. */
const MOST = 2000;

/** A stroke while it is drawn. */
interface Stroke {
  number: number;
  dabs: number;
  room: HandRoom;
  /** cells of plants whose plants are in the room */
  seen: Set<string>;
  source: WhereSource;
  set: PlantObject[];
  held: number;
  /** with Shift: those set by hand that go */
  taken?: Map<string, PlantObject>;
}

/**
 * Sets plants by hand on whatever is under the pointer, floors of caves, ledges, roofs and flanks: of all species that are picked, each
 * up to its own density and by its own rule, unless that is not asked. Shift takes those away that were set by hand. One edit a stroke.
 */
export function plantBrush({ session, view }: ToolContext): Tool {
  let at: Surface | undefined;
  let stroke: Stroke | undefined;

  const radius = () => useGround.getState().groundBrush.radius;
  const under = (e: ToolEvent): Surface | undefined => (e.pick ? { at: e.pick.point, normal: e.pick.normal } : undefined);
  const cast: HandCast = (origin, direction, far) => {
    const { solids, placed } = session.scene;
    const hit = groundAlongGrid(session.terrain, { blocks: solids.plain.grid, meshes: placed.scene.grid }, { origin, direction, far });
    return hit && { at: hit.point, normal: hit.normal, terrain: hit.host.kind === 'terrain' };
  };

  const show = () => {
    if (!stroke) view.setPiecePreview(undefined);
    else if (!stroke.taken) view.setPiecePreview(new Map(stroke.set.map((p) => [p.id, shown(session, p)])));
  };

  const dab = (place: Surface) => {
    if (!stroke) return;
    const wide = radius();
    if (stroke.taken) {
      const of = new Set(chosenSpecies(session.level).map((s) => s.id));
      for (const p of presentPlants(session.level))
        // What stands in a line or a copy goes with that.
        if (of.has(p.species) && !p.gone && !p.locked && !isMade(p.id) && distance(p.at, place.at) <= wide) stroke.taken.set(p.id, p);
      return;
    }
    if (stroke.set.length >= MOST) return;
    fillRoom(session, stroke, place.at, wide);
    const made = handDab(brushOf(session, stroke, place.at, wide, cast), { ...place, radius: wide }, [stroke.number, stroke.dabs++]);
    stroke.held += made.held;
    for (const p of made.plants) stroke.set.push({ ...p, id: newId('plant'), version: 1, name: session.scene.plants.byId.get(p.species)!.name });
  };

  const stop = () => {
    stroke = undefined;
    show();
  };

  return {
    begin(e) {
      at = under(e);
      if (!at) return false;
      const no = !session.writable
        ? 'this level is read only here: take over to edit it'
        : chosenSpecies(session.level).length === 0
          ? 'add a species first: pick a plant in the library'
          : undefined;
      if (no) {
        session.say(no, true);
        return true;
      }
      const { strokes } = usePlanting.getState();
      usePlanting.setState({ strokes: strokes + 1 });
      const { plants } = session.scene;
      stroke = {
        // Another level, or the same on another day, draws other numbers.
        number: strokes + session.level.objects.size * 64,
        dabs: 0,
        room: new HandRoom(plants.byId),
        seen: new Set(),
        source: whereSource(plants.input(), plants.grown),
        set: [],
        held: 0,
        ...(e.shift ? { taken: new Map() } : {}),
      };
      dab(at);
      show();
      return true;
    },
    move(e) {
      const next = under(e);
      if (!stroke || !next || !at || dabsBetween(at.at, next.at, radius()) < 1) return;
      at = next;
      dab(next);
      show();
    },
    end() {
      const done = stroke;
      stop();
      if (!done) return;
      if (done.taken) {
        if (done.taken.size > 0) session.commit({ kind: 'remove', ids: [...done.taken.keys()] }, `clear ${done.taken.size} plants set by hand`);
        return;
      }
      if (done.set.length === 0) {
        session.say(whyNone(session, done), true);
        return;
      }
      const next = new Map<string, number>();
      const objects = done.set.map((p): PlantObject => {
        const n = next.get(p.name) ?? Number(/\d+$/.exec(nextName(session.level, p.name))![0]);
        next.set(p.name, n + 1);
        return { ...p, name: `${p.name} ${n}` };
      });
      const kinds = [...next.keys()];
      const what = `set ${objects.length} ${kinds.length === 1 ? kinds[0] : 'plants'} by hand`;
      if (session.commit({ kind: 'add', objects }, what) && done.held > 0) session.say(`${what}; ${done.held} kept out by the ceiling`);
    },
    cancel: stop,
    cursor(e) {
      at = under(e);
    },
    marks(): ToolMark[] {
      if (!at) return [];
      const ring = ringAt(at, radius());
      const list = chosenSpecies(session.level);
      const name = list.length === 1 ? list[0].name : `${list.length} species`;
      const counted = stroke && countedIn(stroke);
      const word = stroke?.taken ? `${stroke.taken.size} to go` : (counted ?? name);
      return [
        { kind: 'ring', points: ring, dashed: false },
        { kind: 'label', at: ring[0], text: `${radius().toFixed(1)} m, ${word}` },
      ];
    },
  };
}

/** What a stroke has set so far, in words. */
function countedIn({ set, held }: Stroke): string {
  return `${set.length} set${held > 0 ? `, ${held} kept out by the ceiling` : ''}${set.length >= MOST ? ', no more in one stroke' : ''}`;
}

/** Why a stroke set nothing. */
function whyNone(session: Session, { held }: Stroke): string {
  if (held > 0) return `no room under the ceiling: ${held} kept out`;
  const names = chosenSpecies(session.level)
    .map((s) => s.name)
    .join(', ');
  const why = usePlanting.getState().byRule ? 'its rule says no: ask why here, or set it without its rule' : 'it cannot hold';
  return `no ${names} here: as many stand there as its density asks for, or ${why}`;
}

/** A plant as it is drawn before it is one. */
function shown(session: Session, plant: PlantObject): Piece {
  const asset = plant.asset ?? session.scene.plants.byId.get(plant.species)!.asset;
  const { at, turn, tilt, scale } = poseOf(plant);
  return asPiece({ asset, at, turn, sink: 0, ...(tilt ? { tilt } : {}), ...(scale ? { scale } : {}) }, plant.id, plant.name);
}

/** Puts what stands near a dab into the room, cell by cell and once. */
function fillRoom(session: Session, { room, seen }: Stroke, [x, , z]: Vec3, wide: number): void {
  const { grown, species } = session.scene.plants;
  const about = wide + Math.max(6, ...species.map((s) => Math.max(s.spacing, s.clearance)));
  const cell = (v: number) => Math.floor(v / PLANT_CELL);
  for (let cz = cell(z - about); cz <= cell(z + about); cz++)
    for (let cx = cell(x - about); cx <= cell(x + about); cx++) {
      const key = `${cx},${cz}`;
      if (seen.has(key)) continue;
      seen.add(key);
      for (const plants of grown) {
        const grid = plantGrid(plants, 0);
        const [first, end] = cellRange(grid, cx, cz);
        for (let k = first; k < end; k++) {
          const o = grid.order[k] * PLANT_STRIDE;
          room.put({ species: plants.species, at: [plants.place[o], plants.place[o + 1], plants.place[o + 2]] });
        }
      }
    }
}

function brushOf(session: Session, { room, source }: Stroke, [x, , z]: Vec3, wide: number, cast: HandCast): HandBrush {
  const { byRule, sowTo } = usePlanting.getState();
  const { ground, plants } = session.scene;
  const { grid } = session.terrain;
  const sample = (v: number, most: number) => Math.min(most, Math.max(0, v));
  const rect: Rect = {
    x0: sample(Math.floor((x - wide) / grid.spacing), grid.nx - 1),
    z0: sample(Math.floor((z - wide) / grid.spacing), grid.nz - 1),
    x1: sample(Math.ceil((x + wide) / grid.spacing), grid.nx - 1),
    z1: sample(Math.ceil((z + wide) / grid.spacing), grid.nz - 1),
  };
  const list = chosenSpecies(session.level).map((one): HandSpecies => {
    const s = plants.byId.get(one.id) ?? one;
    const where = byRule && s.rule.where?.length ? readyWhere(s.rule.where, source, rect) : undefined;
    return { s, ...(byRule ? { rule: handRule(s, ground.raster, where) } : {}) };
  });
  const ceiling = settingsOf(session.level).plantCeiling;
  return {
    list,
    to: sowTo,
    room,
    cast,
    ground: ground.raster,
    assetHeights: source.heights,
    origin: [grid.ox, grid.oz],
    ...(ceiling === undefined ? {} : { ceiling }),
  };
}
