import type { ToolId } from '../store/ui';
import { blockTool } from './blockTool';
import { brushTool } from './brushTool';
import { markerTool } from './markerTool';
import { selectTool } from './selectTool';
import type { Tool, ToolContext } from './tool';

export function makeTool(id: ToolId, context: ToolContext): Tool {
  switch (id) {
    case 'box':
    case 'ramp': return blockTool(id, context);
    case 'entry':
    case 'objective': return markerTool(id, context);
    case 'select': return selectTool(context);
    default: return brushTool(context);
  }
}
