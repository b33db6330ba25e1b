import type { ToolId } from '../store/ui';
import { blockTool } from './blockTool';
import { brushTool } from './brushTool';
import { peopleTool } from './peopleTool';
import { fillTool } from './fillTool';
import { lineTool } from './lineTool';
import { landformTool, padTool, routeTool } from './liftTools';
import { markerTool } from './markerTool';
import { maskTool } from './maskTool';
import { paintTool, whyGroundTool } from './paintTool';
import { pieceTool } from './pieceTool';
import { askTool, plantTool } from './plantTool';
import { poolTool } from './poolTool';
import { proposeTool } from './proposeTool';
import { rampTool } from './rampTool';
import { playBoundsTool } from './playBoundsTool';
import { sectionTool } from './sectionTool';
import { selectTool } from './selectTool';
import { measureTool } from './measureTool';
import { sowTool } from './sowTool';
import type { Tool, ToolContext } from './tool';

export function makeTool(id: ToolId, context: ToolContext): Tool {
  switch (id) {
    case 'box':
    case 'ramp':
    case 'wedge':
    case 'stair':
    case 'cylinder':
    case 'cone':
    case 'arch':
    case 'terraces':
    case 'ring': return blockTool(id, context);
    case 'wall':
    case 'slab':
    case 'tunnel': return lineTool(id, context);
    case 'entry':
    case 'objective':
    case 'threat': return markerTool(id, context);
    case 'paint':
    case 'unpaint': case 'smudge': case 'replace': return paintTool(id, context);
    case 'fill': return fillTool(context);
    case 'ask-ground': return whyGroundTool(context);
    case 'piece': return pieceTool(context);
    case 'sow':
    case 'clear': return sowTool(id, context);
    case 'plant': return plantTool(context);
    case 'ask': return askTool(context);
    case 'measure': return measureTool(context);
    case 'people': return peopleTool(context);
    case 'section': return sectionTool(context);
    case 'playBounds': return playBoundsTool(context);
    case 'landform': return landformTool(context);
    case 'route': return routeTool(context);
    case 'propose': return proposeTool(context);
    case 'pad': return padTool(context);
    case 'mask': return maskTool(context);
    case 'pool': return poolTool(context);
    case 'earth-ramp': return rampTool(context);
    case 'select': return selectTool(context);
    default: return brushTool(context);
  }
}
