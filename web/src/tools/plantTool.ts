import { poseOf } from '@rammer/core/level/instance';
import { adopted } from '@rammer/core/growth/adopt';
import { handAsset } from '@rammer/core/growth/growing';
import { plantId, PLANT_STRIDE } from '@rammer/core/growth/plants';
import { pickPlant } from '@rammer/core/growth/pickPlant';
import { holeRadius } from '@rammer/core/growth/holes';
import { assetBounds, type Asset } from '@rammer/core/kit/asset';
import type { PlantObject } from '@rammer/core/level/objects';
import { wrapDeg } from '@rammer/core/num/pose';
import { clamp, type Vec3 } from '@rammer/core/num/vec';
import { askWhy } from './askWhy';
import { speciesAtHand, usePlanting } from '../store/planting';
import { useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import { mm, setThings, thing } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** Pixels the pointer moves before a press is a drag. */
const STILL = 5;
/** A plant is set by a drag from a quarter of its species' least height to twice its most. */
const SIZED = [0.25, 2] as const;

/**
 * Single plants: one of the species at hand is shown where it would stand; a click on the ground sets it, a drag up or down
 * makes it as tall as it is drawn and sideways turns it. A drag moves the plant under the pointer (a generated one is set by hand
 * with that), a click picks it; Delete removes it.
 */
export function plantTool({ session, view }: ToolContext): Tool {
  let grab: { plant: PlantObject; generated: boolean; name?: string; pressed: [number, number]; moved: boolean } | undefined;
  let at: Vec3 | undefined;
  /** the one that comes next: its mesh and turn are those it will have */
  let next: PlantObject | undefined;
  /** it is being set: where the pointer went down */
  let setting: { x: number; y: number; turn: number } | undefined;

  const under = (e: ToolEvent): { plant: PlantObject; generated: boolean; name?: string } | undefined => {
    const { scene } = session;
    const ray = view.ray(e.x, e.y);
    const hit = pickPlant(
      { grown: scene.plants.grown, species: scene.plants.byId, assets: scene.placed.assets },
      { origin: ray.origin, direction: ray.direction, far: (e.pick?.distance ?? 1e6) + 0.3 },
    );
    if (!hit) return undefined;
    const name = plantId(hit.plants, hit.index);
    const own = thing(session, name);
    if (own?.kind === 'plant') return { plant: own, generated: false };
    const species = scene.plants.byId.get(hit.plants.species)!;
    return {
      generated: true,
      plant: { ...adopted(hit.plants, hit.index, species), id: newId('plant'), version: 1, name: nextName(session.level, species.name) },
      name,
    };
  };
  /** The mesh a plant has that is set by hand, or will be. */
  const assetOf = (plant: Pick<PlantObject, 'species' | 'id' | 'asset'>): Asset | undefined => {
    const species = session.scene.plants.byId.get(plant.species);
    return species && handAsset(species, plant, session.scene.placed.assets);
  };
  const heightOf = (plant: PlantObject): number => {
    const asset = assetOf(plant);
    return (typeof plant.scale === 'number' ? plant.scale : plant.scale[1]) * (asset ? assetBounds(asset).max[1] : 1);
  };

  /** The plant that would be set at a place; nothing where there is no species. */
  const nextAt = (point: Vec3): PlantObject | undefined => {
    const species = speciesAtHand(session.level);
    if (!species) return (next = undefined);
    if (next?.species !== species.id)
      next = {
        id: newId('plant'),
        version: 1,
        kind: 'plant',
        name: species.name,
        species: species.id,
        at: point,
        turn: Math.floor(Math.random() * 360) - 180,
        scale: 1,
        gone: false,
      };
    const asset = assetOf(next);
    const tall = asset ? assetBounds(asset).max[1] : 1;
    return (next = { ...next, at: point.map(mm) as Vec3, scale: mm((species.height[0] + species.height[1]) / 2 / tall) });
  };
  const showNext = () => view.aids.setAssetGhost(next && assetOf(next), next && poseOf(next));
  /** As tall as it is drawn, turned by how far aside. */
  const size = (e: ToolEvent) => {
    if (!next || !setting) return;
    const up = setting.y - e.y;
    const aside = e.x - setting.x;
    if (Math.max(Math.abs(up), Math.abs(aside)) < STILL) return;
    const species = session.scene.plants.byId.get(next.species);
    const asset = assetOf(next);
    if (!species || !asset) return;
    const middle = (species.height[0] + species.height[1]) / 2;
    const tall = clamp(middle + up / view.pixelsPerMetre(next.at), species.height[0] * SIZED[0], species.height[1] * SIZED[1]);
    next = { ...next, scale: mm(tall / assetBounds(asset).max[1]), turn: Math.round(wrapDeg(setting.turn + aside)) };
    showNext();
  };

  return {
    begin(e) {
      const found = under(e);
      if (found) {
        view.aids.setAssetGhost();
        grab = { ...found, pressed: [e.x, e.y], moved: false };
        at = found.plant.at;
        usePlanting.setState({ species: found.plant.species });
        return true;
      }
      if (!e.pick) return false;
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return true;
      }
      const made = nextAt(e.pick.point);
      if (!made) {
        session.say('add a species first: pick a plant in the library', true);
        return true;
      }
      setting = { x: e.x, y: e.y, turn: made.turn };
      showNext();
      return true;
    },
    move(e) {
      if (setting) return size(e);
      if (!grab || !e.pick || !session.writable) return;
      if (!grab.moved && Math.hypot(e.x - grab.pressed[0], e.y - grab.pressed[1]) < STILL) return;
      grab.moved = true;
      at = e.pick.point.map(mm) as Vec3;
      view.aids.setAssetGhost(assetOf(grab.plant), { ...poseOf(grab.plant), at });
    },
    end() {
      const done = grab;
      grab = undefined;
      view.aids.setAssetGhost();
      if (setting && next) {
        const made = { ...next, name: nextName(session.level, next.name) };
        setting = next = undefined;
        if (session.commit({ kind: 'add', objects: [made] }, `plant ${made.name}`)) chosen(made.id);
        return;
      }
      if (!done) return;
      const { plant, generated, name } = done;
      if (!done.moved) {
        // Picked: a generated one by its name, one set by hand as any thing.
        if (generated) chosen(undefined, { species: plant.species, name: name!, at: plant.at });
        else chosen(plant.id);
        askWhy(session, { species: plant.species, at: [plant.at[0], plant.at[2]] });
        return;
      }
      const ok = generated
        ? session.commit({ kind: 'add', objects: [{ ...plant, at: at! }] }, `move ${plant.name}`)
        : setThings(session, [plant], () => ({ at: at! }), 'move');
      if (ok) chosen(plant.id);
    },
    cancel() {
      grab = setting = next = undefined;
      view.aids.setAssetGhost();
    },
    cursor(e) {
      if (grab || setting) return;
      if (e.pick && session.writable && !under(e)) nextAt(e.pick.point);
      else next = undefined;
      showNext();
    },
    key(key) {
      const picked = usePlanting.getState().plant;
      if ((key !== 'Delete' && key !== 'Backspace') || !picked) return false;
      const species = session.scene.plants.byId.get(picked.species);
      if (!species) return false;
      const { name } = species;
      const done = session.commit(
        {
          kind: 'add',
          objects: [
            {
              id: newId('plant'),
              version: 1,
              kind: 'plant',
              name: nextName(session.level, name),
              species: picked.species,
              at: picked.at,
              turn: 0,
              scale: 1,
              radius: holeRadius(species),
              gone: true,
            },
          ],
        },
        `remove a ${name}`,
      );
      if (done) usePlanting.setState({ plant: undefined });
      return true;
    },
    marks(): ToolMark[] {
      if (grab?.moved && at) return [{ kind: 'label', at, text: `${grab.plant.name}` }];
      if (setting && next) return [{ kind: 'label', at: next.at, text: `${next.name}, ${heightOf(next).toFixed(2)} m tall, ${next.turn}°` }];
      const picked = usePlanting.getState().plant;
      const plants = picked && session.scene.plants.grown.find((p) => p.species === picked.species);
      if (!picked || !plants) return [];
      for (let i = 0; i < plants.count; i++) {
        if (plantId(plants, i) !== picked.name) continue;
        const [x, y, z, , , wide] = plants.place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE);
        const r = Math.max(0.3, wide * 0.5);
        const points = Array.from({ length: 25 }, (_, k): Vec3 => [x + Math.cos((k / 12) * Math.PI) * r, y + 0.05, z + Math.sin((k / 12) * Math.PI) * r]);
        return [
          { kind: 'ring', points, dashed: false },
          { kind: 'label', at: [x, y, z], text: 'generated: drag sets it by hand' },
        ];
      }
      return [];
    },
  };
}

/** Asks why the species at hand grows at a point, or why not. */
export function askTool({ session }: ToolContext): Tool {
  return {
    begin(e) {
      if (!e.pick) return false;
      const species = speciesAtHand(session.level);
      if (!species) {
        session.say('there is no species to ask about yet', true);
        return true;
      }
      askWhy(session, { species: species.id, at: [e.pick.point[0], e.pick.point[2]] });
      return true;
    },
    move() {},
    end() {},
    cancel() {},
    cursor() {},
  };
}

/** One set by hand is selected as any thing; a generated one is picked by its name. */
function chosen(id: string | undefined, plant?: ReturnType<typeof usePlanting.getState>['plant']): void {
  useUi.setState({ selection: id === undefined ? [] : [id] });
  usePlanting.setState({ plant });
}
