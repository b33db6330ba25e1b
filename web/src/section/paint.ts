import { ledgeVerdict } from '@rammer/core/body/checks';
import type { BodyFigures } from '@rammer/core/body/bodies';
import { takeOffSpeed } from '@rammer/core/body/jump';
import { stretchHeight, type WaterStretch } from '@rammer/core/earth/water';
import type { CutPlant } from '@rammer/core/growth/plantsAlong';
import type { Section as Cut } from '@rammer/core/surface/section';
import type { LowStretch, SectionGap, WalkLine } from '@rammer/core/surface/walkLine';
import { LabelRoom } from './labelRoom';

/** What a section shows, in metres along the line and of height; pixels only at the very end. */
export interface SectionPicture {
  fine: Cut;
  whole: Cut;
  /** the window along the line, metres */
  from: number;
  to: number;
  width: number;
  height: number;
  /** height in the middle of the window, metres */
  middle: number;
  body: BodyFigures;
  /** segments of the pieces that are cut: distance and height of either end, four numbers each */
  pieces: readonly number[];
  /** blocks with voids or shapes of their own: the outlines of each one's cut, solid inside an odd number of them */
  built: readonly (readonly (readonly [along: number, height: number][])[])[];
  plants: readonly CutPlant[];
  /** how the body gets along: gaps it has to jump, and where there is little room over its head */
  walked: WalkLine;
  /** surfaces of water */
  water: readonly WaterStretch[];
  /** ground under the figure, metres */
  feet: number;
  /** where the pointer in the view meets the line, and where the loupe is */
  near?: number;
  loupe?: number;
}

export const HEADER = 24;
const FOOT = 14;

/** Colours of the sheet as the theme has them now. */
function colours() {
  const style = getComputedStyle(document.documentElement);
  const read = (name: string) => style.getPropertyValue(name).trim();
  return {
    paper: read('--raised'),
    ink: read('--ink'),
    faint: read('--ink-2'),
    hair: read('--hair'),
    edge: read('--edge'),
    ochre: read('--ochre'),
    ochreText: read('--ochre-text'),
    oxide: read('--oxide'),
    lichen: read('--lichen'),
    blue: read('--blue'),
  };
}
let C: ReturnType<typeof colours>;
const FIGURES = '"Barlow Condensed", sans-serif';

/** Metres to pixels of a picture; the same scale both ways. */
export function scaleOf(p: Pick<SectionPicture, 'from' | 'to' | 'width' | 'height' | 'middle'>) {
  const px = p.width / (p.to - p.from);
  const room = p.height - HEADER - FOOT;
  return { px, room, x: (s: number) => (s - p.from) * px, y: (h: number) => HEADER + room / 2 - (h - p.middle) * px };
}

/**
 * Paints a section on a canvas. A canvas and not SVG, because it is painted anew while the view moves:
 * vector shapes that change are dear where the page is drawn in software.
 */
export function paintSection(ctx: CanvasRenderingContext2D, p: SectionPicture): void {
  C = colours();
  const { fine, width, height } = p;
  const { px, x, y } = scaleOf(p);
  ctx.clearRect(0, 0, width, height);
  ctx.save();
  ctx.beginPath();
  ctx.rect(0, HEADER, width, height - HEADER);
  ctx.clip();
  ctx.lineJoin = 'round';

  const ground = profile(fine, x, y);
  if (ground) {
    const earth = new Path2D(ground);
    earth.lineTo(x(fine.ground[fine.ground.length - 2]), height + 20);
    earth.lineTo(x(fine.ground[0]), height + 20);
    earth.closePath();
    ctx.fillStyle = hatch(ctx, 10, C.hair, 1);
    ctx.fill(earth);
  }
  for (const loops of [...fine.blocks.map((b) => [b.outline]), ...p.built]) {
    const shape = new Path2D(loops.map((loop) => `M${loop.map(([s, h]) => `${x(s)} ${y(h)}`).join('L')}z`).join(''));
    ctx.fillStyle = C.paper;
    ctx.fill(shape, 'evenodd');
    ctx.fillStyle = hatch(ctx, 7, C.edge, -1);
    ctx.fill(shape, 'evenodd');
    stroke(ctx, shape, C.ink, 1.5);
  }
  for (const w of p.water) paintWater(ctx, fine, w, x, y);
  for (const plant of p.plants) paintPlant(ctx, plant, px, x, y);
  if (p.pieces.length > 0) {
    const cut = new Path2D();
    for (let i = 0; i < p.pieces.length; i += 4) {
      cut.moveTo(x(p.pieces[i]), y(p.pieces[i + 1]));
      cut.lineTo(x(p.pieces[i + 2]), y(p.pieces[i + 3]));
    }
    stroke(ctx, cut, C.ink, 2);
  }
  if (ground) stroke(ctx, new Path2D(ground), C.ink, 1.75);
  for (const t of fine.tooSteep) {
    const face = new Path2D(profile(fine, x, y, t.from, t.to));
    stroke(ctx, face, C.ochre, 5);
    stroke(ctx, face, C.ink, 1.25, [2, 2]);
  }
  const room = new LabelRoom(HEADER + 12, height - 24);
  for (const t of labelled(fine, px, (h) => y(h) > HEADER && y(h) < height - FOOT)) {
    const a = sampleAt(fine, t.from) ?? 0;
    const b = sampleAt(fine, t.to) ?? 0;
    const rise = Math.abs(b - a);
    const text = `${rise.toFixed(1)} m face: ${ledgeVerdict(p.body, rise)}`;
    // Beside the face on its lower side, where there is air and not earth.
    const left = a > b ? x(t.to) + 10 : undefined;
    ctx.font = `600 12px ${FIGURES}`;
    const at = left ?? x(t.from) - 10 - ctx.measureText(text).width;
    roomed(ctx, room, Math.min(Math.max(at, 4), width - ctx.measureText(text).width - 4), y((a + b) / 2) + 4, { text, colour: C.ochreText });
  }
  // What stops the body is told first where there is not room for all.
  for (const low of [...p.walked.low].sort((a, b) => a.clearance - b.clearance)) paintLow(ctx, room, low, x, y);
  for (const gap of [...p.walked.gaps].sort((a, b) => WORST[a.verdict] - WORST[b.verdict])) paintGap(ctx, room, gap, { body: p.body, x, y });
  figure(ctx, x(0), y(p.feet), p.body.height * px);
  if (p.near !== undefined) stroke(ctx, new Path2D(`M${x(p.near)} ${HEADER}V${height - 16}`), C.ink, 1, [2, 3]);
  ctx.restore();

  for (let s = Math.ceil(p.from / 2) * 2; s <= p.to; s += 2) {
    const ten = s % 10 === 0;
    stroke(ctx, new Path2D(`M${x(s)} ${height}v${ten ? -9 : -4}`), C.ink, 1);
    if (ten) label(ctx, x(s) + 3, height - 3, String(Math.round(s)), { font: '500 12px', colour: C.faint });
  }
  stroke(ctx, new Path2D(`M0 ${height - 0.5}H${width}`), C.ink, 1);
  thread(ctx, p);
  if (p.loupe !== undefined) {
    const h = sampleAt(fine, p.loupe);
    if (h !== undefined) {
      const dot = new Path2D();
      dot.arc(x(p.loupe), y(h), 4, 0, Math.PI * 2);
      ctx.fillStyle = C.paper;
      ctx.fill(dot);
      stroke(ctx, dot, C.ink, 1.5);
      label(ctx, Math.min(x(p.loupe) + 9, width - 160), Math.max(HEADER + 14, y(h) - 8), `${p.loupe.toFixed(1)} m along, height ${h.toFixed(2)} m`, {
        font: '600 13px',
        colour: C.ink,
      });
    }
  }
}

/** Which verdicts are told first. */
const WORST = { impossible: 0, blocked: 0, tight: 1, crouch: 1, easy: 2 } as const;
const VERDICT_COLOUR = { easy: 'lichen', tight: 'ochreText', impossible: 'oxide', blocked: 'oxide', crouch: 'ochreText' } as const;

/** The arcs of a jump over a gap: at a run, solid, and at a walk, dashed; its width and verdict above. */
function paintGap(
  ctx: CanvasRenderingContext2D,
  room: LabelRoom,
  gap: SectionGap,
  { body, x, y }: { body: BodyFigures; x(s: number): number; y(h: number): number },
): void {
  const width = Math.abs(gap.to - gap.from);
  const way = Math.sign(gap.to - gap.from);
  const up = takeOffSpeed(body);
  const arc = (speed: number) => {
    const path = new Path2D();
    path.moveTo(x(gap.from), y(gap.height));
    for (let d = 0.05; d <= width + 1e-9; d += 0.05) {
      const t = d / speed;
      path.lineTo(x(gap.from + way * d), y(gap.height + up * t - (body.gravity * t * t) / 2));
    }
    return path;
  };
  const colour = C[VERDICT_COLOUR[gap.verdict]];
  ctx.save();
  // Below its landing a jump has missed it.
  ctx.beginPath();
  ctx.rect(x(Math.min(gap.from, gap.to)) - 2, -1000, Math.abs(x(gap.to) - x(gap.from)) + 4, 1000 + y(Math.min(gap.height, gap.height + gap.rise) - 0.6));
  ctx.clip();
  stroke(ctx, arc(body.walk), C.faint, 1, [3, 3]);
  stroke(ctx, arc(body.run), C.paper, 4);
  stroke(ctx, arc(body.run), colour, 1.75);
  ctx.restore();
  for (const [s, h] of [
    [gap.from, gap.height],
    [gap.to, gap.height + gap.rise],
  ])
    stroke(ctx, new Path2D(`M${x(s)} ${y(h) - 5}v10`), C.ink, 1.5);
  const text = `${width.toFixed(2)} m gap: ${gap.verdict}${gap.back === gap.verdict ? '' : `, back ${gap.back}`}`;
  ctx.font = `600 12px ${FIGURES}`;
  const over = y(Math.max(gap.height, gap.height + gap.rise) + body.jumpApex) - 5;
  roomed(ctx, room, (x(gap.from) + x(gap.to)) / 2 - ctx.measureText(text).width / 2, over, { text, colour });
}

/** The lowest place of a stretch with little room: a dimension line from floor to ceiling. */
function paintLow(ctx: CanvasRenderingContext2D, room: LabelRoom, low: LowStretch, x: (s: number) => number, y: (h: number) => number): void {
  const [top, floor] = [y(low.floor + low.clearance), y(low.floor)];
  const line = new Path2D(`M${x(low.at)} ${top}V${floor}M${x(low.at) - 4} ${top}h8M${x(low.at) - 4} ${floor}h8`);
  stroke(ctx, line, C.paper, 4);
  stroke(ctx, line, C[VERDICT_COLOUR[low.verdict]], 1.5);
  const text = `${low.clearance.toFixed(2)} m: ${low.verdict}`;
  roomed(ctx, room, x(low.at) + 7, (top + floor) / 2 + 4, { text, colour: C[VERDICT_COLOUR[low.verdict]] });
}

/** A plant as its outline at true scale: a crown, on a stem where it has a trunk. */
function paintPlant(ctx: CanvasRenderingContext2D, plant: CutPlant, px: number, x: (s: number) => number, y: (h: number) => number): void {
  // A bush stops a body too, but it has no stem to be seen.
  const stem = plant.trunk > 0 && plant.tall > 3 ? plant.tall * 0.35 : 0;
  const crown = new Path2D();
  const half = Math.max(1, (plant.wide * px) / 2);
  crown.ellipse(x(plant.along), y(plant.base + stem + (plant.tall - stem) / 2), half, Math.max(1, ((plant.tall - stem) * px) / 2), 0, 0, Math.PI * 2);
  ctx.fillStyle = C.paper;
  ctx.fill(crown);
  ctx.fillStyle = C.lichen;
  ctx.globalAlpha = 0.4;
  ctx.fill(crown);
  ctx.globalAlpha = 1;
  stroke(ctx, crown, C.lichen, 1);
  if (stem > 0) stroke(ctx, new Path2D(`M${x(plant.along)} ${y(plant.base)}V${y(plant.base + stem)}`), C.ink, Math.max(1.5, plant.trunk * 2 * px));
}

/** Water over the ground it covers: its surface, and dashes for its body. */
function paintWater(ctx: CanvasRenderingContext2D, cut: Cut, water: WaterStretch, x: (s: number) => number, y: (h: number) => number): void {
  const body = new Path2D();
  const { ground } = cut;
  let open = -1;
  /** Back along the surface from the last wet point of the ground to the first. */
  const close = (last: number) => {
    for (let k = last; k >= open; k -= 2) body.lineTo(x(ground[k]), y(stretchHeight(water, ground[k])));
    body.closePath();
    open = -1;
  };
  for (let i = 0; i < ground.length; i += 2) {
    const s = ground[i];
    const wet = s >= water.from && s <= water.to && ground[i + 1] < stretchHeight(water, s);
    if (!wet) {
      if (open >= 0) close(i - 2);
      continue;
    }
    if (open < 0) {
      open = i;
      body.moveTo(x(s), y(ground[i + 1]));
    } else body.lineTo(x(s), y(ground[i + 1]));
  }
  if (open >= 0) close(ground.length - 2);
  ctx.fillStyle = C.blue;
  ctx.globalAlpha = 0.16;
  ctx.fill(body);
  ctx.globalAlpha = 1;
  stroke(ctx, body, C.blue, 1, [6, 3]);
}

/** Where the overview thread lies, pixels, and how it maps metres along the line. */
export function threadOf(p: Pick<SectionPicture, 'whole' | 'width'>): { x0: number; w: number; first: number; last: number; k: number } | undefined {
  const g = p.whole.ground;
  if (g.length < 4) return undefined;
  const w = Math.min(250, p.width * 0.32);
  const first = g[0];
  const last = g[g.length - 2];
  return { x0: p.width - w - 12, w, first, last, k: w / (last - first) };
}

/** The overview thread: the whole line, with the window marked. */
function thread(ctx: CanvasRenderingContext2D, p: SectionPicture): void {
  const t = threadOf(p);
  if (!t) return;
  const g = p.whole.ground;
  const range = Math.max(p.whole.high - p.whole.low, 1);
  let d = '';
  const stride = Math.max(2, Math.floor(g.length / 160) * 2);
  for (let i = 0; i < g.length; i += stride) d += `${d ? 'L' : 'M'}${t.x0 + (g[i] - t.first) * t.k} ${18 - ((g[i + 1] - p.whole.low) / range) * 12}`;
  stroke(ctx, new Path2D(d), C.faint, 1);
  const from = Math.max(p.from, t.first);
  const to = Math.min(p.to, t.last);
  const mark = new Path2D();
  mark.rect(t.x0 + (from - t.first) * t.k, 3, Math.max(3, (to - from) * t.k), 18);
  stroke(ctx, mark, C.ink, 1.75);
  const text = `${Math.max(0, to - from).toFixed(0)} of ${(t.last - t.first).toFixed(0)} m`;
  ctx.font = `500 12px ${FIGURES}`;
  label(ctx, t.x0 - 8 - ctx.measureText(text).width, 16, text, { font: '500 12px', colour: C.faint });
}

function profile(cut: Cut, x: (s: number) => number, y: (h: number) => number, from = -Infinity, to = Infinity): string {
  let d = '';
  for (let i = 0; i < cut.ground.length; i += 2) {
    const s = cut.ground[i];
    if (s < from - 1e-6 || s > to + 1e-6) continue;
    d += `${d ? 'L' : 'M'}${x(s).toFixed(1)} ${y(cut.ground[i + 1]).toFixed(1)}`;
  }
  return d;
}

function sampleAt(cut: Cut, s: number): number | undefined {
  const g = cut.ground;
  for (let i = 2; i < g.length; i += 2) {
    if (s >= g[i - 2] && s <= g[i]) return g[i - 1] + ((g[i + 1] - g[i - 1]) * (s - g[i - 2])) / (g[i] - g[i - 2] || 1);
  }
  return undefined;
}

/** The highest few too-steep stretches that are in sight, far enough apart for their labels. */
function labelled(cut: Cut, px: number, inSight: (height: number) => boolean): Cut['tooSteep'] {
  const rise = (t: Cut['tooSteep'][number]) => Math.abs((sampleAt(cut, t.to) ?? 0) - (sampleAt(cut, t.from) ?? 0));
  const out: Cut['tooSteep'] = [];
  for (const t of [...cut.tooSteep].sort((a, b) => rise(b) - rise(a))) {
    if (rise(t) < 0.5 || out.length >= 4) break;
    if (!inSight(((sampleAt(cut, t.to) ?? 0) + (sampleAt(cut, t.from) ?? 0)) / 2)) continue;
    if (out.every((o) => Math.abs(o.from - t.from) * px > 120)) out.push(t);
  }
  return out;
}

function stroke(ctx: CanvasRenderingContext2D, path: Path2D, colour: string, width: number, dash: number[] = []): void {
  ctx.strokeStyle = colour;
  ctx.lineWidth = width;
  ctx.setLineDash(dash);
  ctx.stroke(path);
  ctx.setLineDash([]);
}

function label(ctx: CanvasRenderingContext2D, x: number, y: number, text: string, { font, colour }: { font: string; colour: string }): void {
  ctx.font = `${font} ${FIGURES}`;
  ctx.lineJoin = 'round';
  ctx.strokeStyle = C.paper;
  ctx.lineWidth = 4;
  ctx.strokeText(text, x, y);
  ctx.fillStyle = colour;
  ctx.fillText(text, x, y);
}

/** A label where there is room for it. */
function roomed(ctx: CanvasRenderingContext2D, room: LabelRoom, x: number, y: number, { text, colour }: { text: string; colour: string }): void {
  ctx.font = `600 12px ${FIGURES}`;
  const at = room.take(x, y, ctx.measureText(text).width);
  if (at !== undefined) label(ctx, x, at, text, { font: '600 12px', colour });
}

const FIGURE = new Path2D('M-9 0L-7 -48L-14 -50L-11 -82H11L14 -50L7 -48L9 0H3L0 -44L-3 0z M8 -92A8 8 0 1 1 -8 -92A8 8 0 1 1 8 -92z');

function figure(ctx: CanvasRenderingContext2D, x: number, y: number, h: number): void {
  ctx.save();
  ctx.translate(x, y);
  ctx.scale(h / 100, h / 100);
  stroke(ctx, FIGURE, C.paper, 240 / h);
  ctx.fillStyle = C.oxide;
  ctx.fill(FIGURE);
  ctx.restore();
}

const patterns = new Map<string, CanvasPattern>();

/** A hatch of lines at 45 degrees; `way` 1 rises to the right, -1 falls. */
function hatch(ctx: CanvasRenderingContext2D, side: number, colour: string, way: 1 | -1): CanvasPattern {
  const key = `${side}${colour}${way}`;
  let pattern = patterns.get(key);
  if (!pattern) {
    const tile = document.createElement('canvas');
    tile.width = tile.height = side;
    const t = tile.getContext('2d')!;
    t.strokeStyle = colour;
    t.beginPath();
    for (const o of [-side, 0, side]) {
      t.moveTo(o - 1, way > 0 ? side + 1 : -1);
      t.lineTo(o + side + 1, way > 0 ? -1 : side + 1);
    }
    t.stroke();
    pattern = ctx.createPattern(tile, 'repeat')!;
    patterns.set(key, pattern);
  }
  return pattern;
}
