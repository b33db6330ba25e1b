import { graded, gradeOf, lineLength, reshaped, resized } from '@rammer/core/block/drawn';
import { DEFAULT_LINING, tallOf, wideOf } from '@rammer/core/level/drawn';
import { DEFAULT_BATTER, DEFAULT_STEPS, DEFAULT_WALL, MIN_BLOCK, type Block } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { setBlocks } from '../../tools/blockActions';
import { mm } from '../../tools/things';
import { NumberField } from '../../ui/NumberField';
import { GroupField, PlaceFields, ThingButtons, TurnFields } from '../standing/PoseFields';

const same = (values: number[]): number | undefined => (values.every((v) => Math.abs(v - values[0]) < 1e-6) ? values[0] : undefined);
const range = (values: number[]): string => `${Number(Math.min(...values).toFixed(2))}-${Number(Math.max(...values).toFixed(2))}`;

const stepsOf = (b: Block): number => b.steps ?? DEFAULT_STEPS;
const stepsFor = (v: number): number => Math.min(500, Math.max(1, Math.round(v)));
const riserOf = (b: Block): number => b.size[1] / stepsOf(b);
const goingOf = (b: Block): number => b.size[0] / stepsOf(b);

type Field = (
  label: string,
  get: (b: Block) => number,
  set: (b: Block, v: number) => Partial<Block>,
  unit: string,
  limits?: { min?: number; max?: number; step?: number },
) => React.ReactNode;

/** The numbers that belong to the shape, where all selected have it. */
function shapeFields(blocks: Block[], field: Field): React.ReactNode {
  const all = (...shapes: Block['shape'][]) => blocks.every((b) => shapes.includes(b.shape));
  const steps = field('steps', stepsOf, (_b, v) => ({ steps: stepsFor(v) }), '', { min: 1, max: 500, step: 1 });
  if (all('stair')) {
    return (
      <>
        {field('riser', riserOf, (b, v) => ({ steps: stepsFor(b.size[1] / v) }), '', { min: 0.02, max: 4 })}
        {field('going', goingOf, (b, v) => ({ size: [mm(v * stepsOf(b)), b.size[1], b.size[2]] }), '', { min: 0.02, max: 10 })}
        {steps}
      </>
    );
  }
  if (all('terraces')) {
    return (
      <>
        {field('rise', riserOf, (b, v) => ({ size: [b.size[0], mm(v * stepsOf(b)), b.size[2]] }), '', { min: 0.05, max: 100 })}
        {field('apart', goingOf, (b, v) => ({ size: [mm(v * stepsOf(b)), b.size[1], b.size[2]] }), '', { min: 0.05, max: 200 })}
        {steps}
        {field(
          'batter',
          (b) => b.batter ?? DEFAULT_BATTER,
          (_b, v) => ({ batter: v }),
          '',
          { min: 0, max: 60, step: 1 },
        )}
      </>
    );
  }
  if (all('arch', 'ring'))
    return field(
      'wall',
      (b) => b.wall ?? DEFAULT_WALL,
      (_b, v) => ({ wall: v }),
      'm',
      { min: 0.02, max: 1000 },
    );
  const wide = (label: string) => field(label, wideOf, (b, v) => reshaped(b, { wide: v }), '', { min: 0.02, max: 1000 });
  if (all('wall'))
    return (
      <>
        {wide('thickness')}
        <LineText blocks={blocks} />
      </>
    );
  if (all('slab')) return <LineText blocks={blocks} />;
  if (all('tunnel')) {
    return (
      <>
        {wide('clear w.')}
        {field('clear h.', tallOf, (b, v) => reshaped(b, { tall: v }), '', { min: MIN_BLOCK, max: 4096 })}
        {blocks.every((b) => b.op !== 'void')
          ? field(
              'lining',
              (b) => b.wall ?? DEFAULT_LINING,
              (b, v) => reshaped(b, { wall: v }),
              '',
              { min: 0.02, max: 1000 },
            )
          : field(
              'grade %',
              (b) => gradeOf(b.line!) * 100,
              (b, v) => reshaped(b, { line: graded(b.line!, v / 100) }),
              '',
              { min: -100, max: 100, step: 1 },
            )}
      </>
    );
  }
  return null;
}

const LineText = ({ blocks }: { blocks: Block[] }) =>
  blocks.length === 1 ? (
    <span className="label fig self-end whitespace-nowrap pb-0.5">
      {blocks[0].line!.length} corners, {lineLength(blocks[0]).toFixed(2)} m
    </span>
  ) : null;

/** Shared fields of the selected blocks; what differs reads as a range and can still be typed. */
export function BlockFields({ session, blocks }: { session: Session; blocks: Block[] }) {
  const field = (
    label: string,
    get: (b: Block) => number,
    set: (b: Block, v: number) => Partial<Block>,
    unit: string,
    { fill = false, ...limits }: { min?: number; max?: number; step?: number; fill?: boolean } = {},
  ) => {
    const values = blocks.map(get);
    const one = same(values);
    return (
      <NumberField
        key={label}
        label={label}
        className="grid min-w-0 gap-0.5"
        fill={fill}
        value={one ?? values[0]}
        mixed={one === undefined ? range(values) : undefined}
        unit={unit}
        digits={3}
        {...limits}
        onCommit={(v) => setBlocks(session, blocks, (b) => set(b, v), label)}
      />
    );
  };
  const side = (i: 0 | 1 | 2) => [(b: Block) => b.size[i], (b: Block, v: number) => resized(b, i, v)] as const;
  const sizes = { min: MIN_BLOCK, max: 4096 };
  const ops = new Set(blocks.map((b) => (b.op === 'void' ? (b.cuts ?? 'all') : 'solid')));
  return (
    <>
      <div className="flex gap-2">
        {field('length', ...side(0), 'm', sizes)}
        {field('height', ...side(1), 'm', sizes)}
        {field('width', ...side(2), 'm', sizes)}
      </div>
      <PlaceFields session={session} list={blocks} />
      <TurnFields session={session} list={blocks} />
      <div className="flex items-end gap-1">
        <GroupField session={session} list={blocks} />
        <ThingButtons session={session} list={blocks} />
      </div>
      <div className="flex items-end gap-1.5">
        <label className="grid shrink-0 gap-0.5">
          <span className="label">adds or cuts</span>
          <select
            className="textf h-6 w-[84px] px-1"
            aria-label="adds or cuts"
            value={ops.size === 1 ? [...ops][0] : ''}
            onChange={(e) =>
              setBlocks(
                session,
                blocks,
                (b) => ({
                  ...reshaped(b, { op: e.target.value === 'solid' ? undefined : 'void' }),
                  op: e.target.value === 'solid' ? null : 'void',
                  cuts: e.target.value === 'group' ? 'group' : null,
                }),
                'adds or cuts:',
              )
            }
          >
            {ops.size > 1 && <option value="">several</option>}
            <option value="solid">solid</option>
            <option value="all">void, all</option>
            <option value="group">void, group</option>
          </select>
        </label>
        {shapeFields(blocks, (label, get, set, unit, limits) => field(label, get, set, unit, { ...limits, fill: true }))}
      </div>
    </>
  );
}
