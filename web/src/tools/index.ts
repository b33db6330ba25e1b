import { BRUSHES } from '@rammer/core/earth/brushes/index';
import type { ToolId } from '../store/ui';
import { blockTool } from './blockTool';
import { brushTool } from './brushTool';
import { peopleTool } from './peopleTool';
import { coatTool } from './coatTool';
import { fillTool } from './fillTool';
import { dressTool } from './dressTool';
import { layTool } from './layTool';
import { lineTool } from './lineTool';
import { habitatBrush, habitatTool } from './habitatTools';
import { landformTool, padTool, routeTool } from './liftTools';
import { markerTool } from './markerTool';
import { maskTool } from './maskTool';
import { openingTool } from './openingTool';
import { paintTool, whyGroundTool } from './paintTool';
import { pieceTool } from './pieceTool';
import { plantBrush } from './plantBrush';
import { askTool, plantTool } from './plantTool';
import { poolTool } from './poolTool';
import { proposeTool } from './proposeTool';
import { rampTool } from './rampTool';
import { playBoundsTool } from './playBoundsTool';
import { roundTool } from './roundTool';
import { seamTool } from './seamTool';
import { sectionTool } from './sectionTool';
import { selectTool } from './selectTool';
import { measureTool } from './measureTool';
import { areaTool } from './sowArea';
import { sowTool } from './sowTool';
import { throwTool } from './throwTool';
import type { Tool, ToolContext } from './tool';

type Make = (context: ToolContext) => Tool;

/** The same maker under several names, which it is told. */
const each = <K extends string>(ids: readonly K[], make: (id: K, context: ToolContext) => Tool): Record<K, Make> =>
  Object.fromEntries(ids.map((id) => [id, (context: ToolContext) => make(id, context)])) as Record<K, Make>;

/** Every tool: one entry, one file. */
const TOOLS: Record<ToolId, Make> = {
  select: selectTool,
  measure: measureTool,
  people: peopleTool,
  section: sectionTool,
  playBounds: playBoundsTool,
  ...each(['box', 'ramp', 'wedge', 'stair', 'cylinder', 'cone', 'arch', 'terraces', 'ring'], blockTool),
  ...each(['wall', 'slab', 'tunnel'], lineTool),
  ...each(BRUSHES, (_, context) => brushTool(context)),
  'earth-ramp': rampTool,
  landform: landformTool,
  route: routeTool,
  propose: proposeTool,
  pad: padTool,
  mask: maskTool,
  pool: poolTool,
  ...each(['paint', 'unpaint', 'smudge', 'replace'], paintTool),
  fill: fillTool,
  'ask-ground': whyGroundTool,
  piece: pieceTool,
  lay: layTool,
  dress: dressTool,
  throw: throwTool,
  opening: openingTool,
  coat: coatTool,
  seam: seamTool,
  round: roundTool,
  ...each(['sow', 'clear'], sowTool),
  area: areaTool,
  habitat: habitatTool,
  'habitat-paint': habitatBrush,
  plant: plantTool,
  'plant-brush': plantBrush,
  ask: askTool,
  ...each(['entry', 'objective', 'threat'], markerTool),
};

/** @throws Error where there is no such tool */
export function makeTool(id: ToolId, context: ToolContext): Tool {
  if (!Object.hasOwn(TOOLS, id)) throw new Error(`there is no tool ${id}`);
  return TOOLS[id](context);
}
