import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import type { LevelView, Pick } from '../view/LevelView';

/** A pointer event as tools see it: pixels in the view, what is under it, and the keys held. */
export interface ToolEvent {
  x: number;
  y: number;
  pick?: Pick;
  shift: boolean;
  alt: boolean;
  ctrl: boolean;
  /** how hard a pen presses, 0 to 1; absent for what does not tell */
  pressure?: number;
}

export interface ToolContext {
  session: Session;
  view: LevelView;
}

/** A tool knows the level and the view, and nothing of panels. `cursor` follows the pointer without a button. */
export interface Tool {
  /** true where the drag belongs to the tool; false leaves it to the camera */
  begin(e: ToolEvent): boolean;
  move(e: ToolEvent): void;
  end(e: ToolEvent): void;
  cancel(): void;
  cursor(e: ToolEvent): void;
  /** a typed character while the tool is at work; true where it was used */
  key?(key: string): boolean;
  /** lines and rings to draw over the view, in level space */
  marks?(): ToolMark[];
}

export type ToolMark = { kind: 'ring'; points: Vec3[]; dashed: boolean } | { kind: 'label'; at: Vec3; text: string };
