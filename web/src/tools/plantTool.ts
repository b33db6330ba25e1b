import { poseOf } from '@rammer/core/level/instance';
import { adopted } from '@rammer/core/growth/adopt';
import { handAsset } from '@rammer/core/growth/growing';
import { plantId, PLANT_STRIDE } from '@rammer/core/growth/plants';
import { pickPlant } from '@rammer/core/growth/pickPlant';
import { holeRadius } from '@rammer/core/growth/holes';
import { assetBounds, type Asset } from '@rammer/core/kit/asset';
import { speciesOf } from '@rammer/core/level/level';
import type { PlantObject } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { askWhy } from './askWhy';
import { speciesAtHand, usePlanting } from '../store/planting';
import { useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import { mm, setThings, thing } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/**
 * Single plants: a click on the ground sets one of the species at hand, a drag moves the plant under
 * the pointer (a generated one is set by hand with that), a click picks it; Delete removes it.
 */
export function plantTool({ session, view }: ToolContext): Tool {
  let grab: { plant: PlantObject; generated: boolean; name?: string; pressed: [number, number]; moved: boolean } | undefined;
  let at: Vec3 | undefined;

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

  return {
    begin(e) {
      const found = under(e);
      if (found) {
        grab = { ...found, pressed: [e.x, e.y], moved: false };
        at = found.plant.at;
        usePlanting.setState({ species: found.plant.species });
        return true;
      }
      if (!e.pick) return false;
      const list = speciesOf(session.level);
      const species = list.find((s) => s.id === usePlanting.getState().species) ?? list[0];
      if (!species) {
        session.say('add a species first: pick a plant in the library', true);
        return true;
      }
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return true;
      }
      const id = newId('plant');
      const asset = assetOf({ id, species: species.id });
      const tall = asset ? assetBounds(asset).max[1] : 1;
      const scale = mm((species.height[0] + species.height[1]) / 2 / tall);
      const plant: PlantObject = {
        id,
        version: 1,
        kind: 'plant',
        name: nextName(session.level, species.name),
        species: species.id,
        at: e.pick.point.map(mm) as Vec3,
        turn: Math.floor(Math.random() * 360) - 180,
        scale,
        gone: false,
      };
      if (session.commit({ kind: 'add', objects: [plant] }, `plant ${plant.name}`)) chosen(plant.id);
      return true;
    },
    move(e) {
      if (!grab || !e.pick || !session.writable) return;
      if (!grab.moved && Math.hypot(e.x - grab.pressed[0], e.y - grab.pressed[1]) < 5) return;
      grab.moved = true;
      at = e.pick.point.map(mm) as Vec3;
      view.aids.setAssetGhost(assetOf(grab.plant), { ...poseOf(grab.plant), at });
    },
    end() {
      const done = grab;
      grab = undefined;
      view.aids.setAssetGhost();
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
      grab = undefined;
      view.aids.setAssetGhost();
    },
    cursor() {},
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
