import { create } from 'zustand';
import { BRUSH_DEFAULTS, type BrushSettings } from '@rammer/core/earth/brush';
import { BRUSHES, type BrushKind } from '@rammer/core/earth/brushes/index';
import type { PrintName } from '@rammer/core/earth/prints';
import type { HeightPicture } from '@rammer/core/earth/survey';
import type { Why } from '@rammer/core/growth/why';
import type { WhyGround } from '@rammer/core/surface/why';
import { DRAWN_DEFAULTS, type DrawnShape } from '@rammer/core/level/drawn';
import { SHAPES, type Landform, type Pad, type Route } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { shownSheet, type SheetTheme } from '../theme/sheetTheme';

export const STAGES = [
  { id: 'brief', number: 1, name: 'Brief' },
  { id: 'block', number: 2, name: 'Block' },
  { id: 'earth', number: 3, name: 'Earth' },
  { id: 'surface', number: 4, name: 'Surface' },
  { id: 'build', number: 5, name: 'Build' },
  { id: 'grow', number: 6, name: 'Grow' },
  { id: 'play', number: 7, name: 'Play' },
  { id: 'light', number: 8, name: 'Light' },
  { id: 'cost', number: 9, name: 'Cost' },
  { id: 'handover', number: 10, name: 'Hand over' },
] as const;
export type StageId = (typeof STAGES)[number]['id'];

export const TOOLS = [
  'select',
  'measure',
  'people',
  'section',
  'playBounds',
  ...SHAPES,
  ...BRUSHES,
  'earth-ramp',
  'landform',
  'route',
  'propose',
  'pad',
  'mask',
  'pool',
  'paint',
  'unpaint',
  'smudge',
  'replace',
  'fill',
  'ask-ground',
  'piece',
  'sow',
  'clear',
  'plant',
  'ask',
  'entry',
  'objective',
  'threat',
] as const;
export type ToolId = (typeof TOOLS)[number];

export const SNAPS = [0.25, 0.5, 1, 2, 0] as const;
export type HandleMode = 'move' | 'turn' | 'size';
export type ViewMode = 'plan' | 'orbit' | 'stand' | 'walk';
export const OVERLAYS = [
  'none',
  'slope',
  'height',
  'curvature',
  'islands',
  'water depth',
  'ground',
  'cut and fill',
  'runoff',
  'repeat',
  'texels',
  'wireframe',
  'blockout',
  'walk area',
  'threat area',
  'both areas',
] as const;
export type Overlay = (typeof OVERLAYS)[number];
export const FINDINGS = ['markers', 'snags', 'notes'] as const;
export type FindingsTab = (typeof FINDINGS)[number];

export type WallUnit = 'frame' | 'triangles' | 'draws' | 'memory';

/** Brushes over the ground: paint and plants. */
export interface GroundBrush {
  /** metres */
  radius: number;
  /** share of the full radius */
  hardness: number;
  /** share of the way one dab goes */
  strength: number;
}
export const COST_SCOPES = ['this view', 'worst viewpoint', 'whole level'] as const;
export type CostScope = (typeof COST_SCOPES)[number];

/** A wall as it was, by what it showed. */
export interface WallBefore {
  tops: Record<WallUnit, number>;
  label: string;
}

/** A lift with other fields, shown inside an area (metres) until it is run everywhere. */
export interface WorkWindow {
  lift: string;
  area: { x0: number; z0: number; x1: number; z1: number };
  fields: Record<string, unknown>;
}

interface Ui {
  stage: StageId;
  tool: ToolId;
  lastTool: Partial<Record<StageId, ToolId>>;
  mode: ViewMode;
  selection: string[];
  handle: HandleMode;
  snap: number;
  brush: BrushSettings;
  /** what the print brush lays down, and the last picture that was opened for it */
  print: PrintName | 'own';
  ownPrint?: { name: string; picture: HeightPicture };
  /** id of the chosen lift, and of the one that is shown alone */
  lift?: string;
  solo?: string;
  /** a lift being tuned in a part of the level only */
  workWindow?: WorkWindow;
  /** id of the chosen water, and how deep the next pool stands where it is clicked, metres */
  water?: string;
  poolDepth: number;
  /** what the next one drawn is like */
  landform: Pick<Landform, 'height' | 'foot' | 'crown' | 'cut' | 'ragged'>;
  route: Pick<Route, 'width' | 'shoulder' | 'grade' | 'crossfall' | 'batter'>;
  pad: Pick<Pad, 'batter' | 'margin'>;
  /** of the next route that is proposed */
  proposalSeed: number;
  groundBrush: GroundBrush;
  /** id of the surface that is painted, and of the one that goes where one replaces another */
  surface: string;
  replaced?: string;
  /** of what is filled: width of its soft edge, metres, and between which slopes only, degrees */
  fill: { soft: number; slope?: [number, number] };
  /** id of the chosen rule of the ground */
  groundRule?: string;
  whyGround?: WhyGround;
  /** which list stands under Surface */
  surfaceTab: 'surfaces' | 'rules';
  /** hash of the asset whose piece is placed, its turn and how far it is sunk */
  kitAsset?: string;
  pieceTurn: number;
  pieceSink: number;
  /** id of the species at hand, the density it is sown to (as a multiple), and whether the eraser takes all species */
  species?: string;
  sowTo: number;
  clearAll: boolean;
  /** a generated plant that is picked: species and name in it */
  plant?: { species: string; name: string; at: [number, number, number] };
  why?: Why & { species: string };
  overlay: Overlay;
  /** marker of the threat whose walk area is shown; the first where none is chosen */
  threat?: string;
  workLight: boolean;
  costScope: CostScope;
  /** spenders left out of the picture and the count: `course` or `course/of` */
  without: ReadonlySet<string>;
  /** the wall's frame as it was, for its ghost */
  before?: WallBefore;
  /** the viewpoint pinned as an inset */
  inset?: string;
  wallUnit: WallUnit;
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
  /** id of the kept line the section runs along; the view's own direction where none */
  sectionLine?: string;
  /** movers run in the view */
  running: boolean;
  /** blocks that alone are shown, by id */
  isolated?: ReadonlySet<string>;
  /** blocks are set on a level plane at this height, metres; `undefined` on what is under the pointer */
  workPlane?: number;
  typed: string;
  benchFolded: boolean;
  benchWidth: number;
  sectionHeight: number;
  help: boolean;
  finder: boolean;
  sheet: SheetTheme;
  /** which list stands under Play */
  findings: FindingsTab;
  /** where a note is being written */
  noteAt?: Vec3;
  setStage(stage: StageId): void;
  setTool(tool: ToolId): void;
  select(ids: string[]): void;
  set(patch: Partial<Ui>): void;
  setBrush(patch: Partial<BrushSettings>): void;
  setGroundBrush(patch: Partial<GroundBrush>): void;
}

const FIRST_TOOL: Record<StageId, ToolId> = {
  brief: 'select',
  block: 'box',
  earth: 'raise',
  surface: 'paint',
  build: 'select',
  grow: 'plant',
  cost: 'select',
  play: 'select',
  light: 'select',
  handover: 'select',
};
const isBrush = (tool: ToolId): tool is BrushKind => (BRUSHES as readonly string[]).includes(tool);

export const useUi = create<Ui>((set, get) => ({
  stage: 'brief',
  tool: 'select',
  lastTool: {},
  mode: 'orbit',
  selection: [],
  handle: 'move',
  snap: 0.5,
  brush: { ...BRUSH_DEFAULTS },
  print: 'outcrop',
  landform: { height: 3, foot: 5, crown: 'flat', cut: false, ragged: 0 },
  route: { width: 3, shoulder: 0.5, grade: 12, crossfall: 0, batter: 40 },
  pad: { batter: 40, margin: 1 },
  proposalSeed: 1,
  poolDepth: 1,
  groundBrush: { radius: 4, hardness: 0.4, strength: 0.5 },
  surface: 'gravel',
  fill: { soft: 1 },
  surfaceTab: 'surfaces',
  pieceTurn: 0,
  pieceSink: 0,
  sowTo: 1,
  clearAll: false,
  costScope: 'this view',
  without: new Set(),
  overlay: 'none',
  workLight: false,
  wallUnit: 'frame',
  blockSize: [4, 2.5, 4],
  blockOp: 'solid',
  tunnelOp: 'void',
  drawn: DRAWN_DEFAULTS,
  grade: 0,
  followGround: false,
  stillOnly: false,
  running: false,
  typed: '',
  benchFolded: false,
  benchWidth: 272,
  sectionHeight: 132,
  help: false,
  finder: false,
  sheet: shownSheet(),
  findings: 'markers',
  setStage(stage) {
    const { stage: old, tool, lastTool } = get();
    const remembered = { ...lastTool, [old]: tool };
    const next = remembered[stage] ?? (stage === 'block' ? 'select' : FIRST_TOOL[stage]);
    set({ stage, lastTool: remembered, tool: next, ...(isBrush(next) ? { brush: { ...get().brush, kind: next } } : {}) });
  },
  // A shape to set starts from the typed size, not from what was selected.
  setTool(tool) {
    set({
      tool,
      typed: '',
      ...((SHAPES as readonly string[]).includes(tool) ? { selection: [] } : {}),
      ...(isBrush(tool) ? { brush: { ...get().brush, kind: tool } } : {}),
    });
  },
  select(ids) {
    set({ selection: ids });
  },
  set(patch) {
    set(patch);
  },
  setGroundBrush(patch) {
    set({ groundBrush: { ...get().groundBrush, ...patch } });
  },
  setBrush(patch) {
    set({ brush: { ...get().brush, ...patch } });
  },
}));

/** Rounds to the snap grid; 0 is off (to a millimetre, so that numbers stay readable). */
export const snapTo = (value: number, snap: number): number => (snap > 0 ? Math.round(value / snap) * snap : Math.round(value * 1000) / 1000);

/** Whether what is set next with the tool at hand adds or cuts. */
export const nextOp = ({ tool, blockOp, tunnelOp }: Pick<Ui, 'tool' | 'blockOp' | 'tunnelOp'>): 'solid' | 'void' => (tool === 'tunnel' ? tunnelOp : blockOp);
export const setNextOp = (op: 'solid' | 'void'): void => useUi.setState(useUi.getState().tool === 'tunnel' ? { tunnelOp: op } : { blockOp: op });
