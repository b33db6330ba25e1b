import { create } from 'zustand';
import { DRAWN_DEFAULTS, type DrawnShape } from '@rammer/core/level/drawn';
import { useUi, type ToolId } from './ui';

/** What the next block is like, and what stage Block shows beside the level. */
interface BlockDraft {
  /** size given to a block set by a click: length, height, width */
  blockSize: [number, number, number];
  /** whether the next block adds or cuts */
  blockOp: 'solid' | 'void';
  /** the same of the next tunnel, which is mostly a bore */
  tunnelOp: 'solid' | 'void';
  /** height and width across the line of what is drawn next, metres */
  drawn: Record<DrawnShape, { tall: number; wide: number }>;
  /** of the next tunnel, metres up on 100 m */
  grade: number;
  /** the corners of the next wall stand on the ground each, not on one level */
  followGround: boolean;
  /** the table of blocks lists those only that are still blockout */
  stillOnly: boolean;
  /** movers run in the view */
  running: boolean;
}

export const useBlockDraft = create<BlockDraft>(() => ({
  blockSize: [4, 2.5, 4],
  blockOp: 'solid',
  tunnelOp: 'void',
  drawn: DRAWN_DEFAULTS,
  grade: 0,
  followGround: false,
  stillOnly: false,
  running: false,
}));

/** Whether what is set next with a tool adds or cuts. */
export const nextOp = (tool: ToolId, { blockOp, tunnelOp } = useBlockDraft.getState()): 'solid' | 'void' => (tool === 'tunnel' ? tunnelOp : blockOp);
export const setNextOp = (op: 'solid' | 'void'): void => useBlockDraft.setState(useUi.getState().tool === 'tunnel' ? { tunnelOp: op } : { blockOp: op });
