import { parseArgs } from 'node:util';
import { blockPairs } from './block';
import { costPairs } from './cost';
import { earthPairs } from './earth';
import { growthPairs, growthRows } from './growth';
import { playPairs } from './play';
import { kitPairs, snagPairs } from './kit';
import { measure, type Pair, type Row } from './measure';
import { scenePairs } from './scene';
import { surfacePairs } from './surface';

/** `npm run bench -- [--json] [--only PREFIX]` */
const { values } = parseArgs({ options: { json: { type: 'boolean', default: false }, only: { type: 'string', default: '' } } });
const wanted = (group: string): boolean => values.only === '' || group.startsWith(values.only) || values.only.startsWith(group);
const rows: Row[] = [];
const add = (row: Row): void => {
  if (!row.name.startsWith(values.only!)) return;
  rows.push(row);
  if (!values.json)
    console.log(
      `${row.name.padEnd(18)} ${row.ratio.toFixed(2).padStart(8)} x  (${row.low.toFixed(2)} to ${row.high.toFixed(2)})  target ` +
        `${row.target ?? '-'}   ours ${row.ours.toFixed(2)} ${row.unit}, baseline ${row.baseline.toFixed(2)} ${row.unit}\n${' '.repeat(19)}${row.note}`,
    );
};

/** Measures the rows that are asked for: making one ready is cheap, measuring it is not. */
const run = async (pairs: readonly (() => Pair | Promise<Pair>)[]): Promise<void> => {
  for (const make of pairs) {
    const pair = await make();
    if (pair.name.startsWith(values.only!)) add(await measure(pair));
  }
};

if (wanted('block/')) await run(await blockPairs());
if (wanted('earth/')) await run(earthPairs());
if (wanted('surface/')) await run(surfacePairs());
if (wanted('growth/')) {
  await run(growthPairs());
  for (const row of growthRows()) add(row);
}
if (wanted('play/')) await run(playPairs());
if (wanted('cost/')) await run(costPairs());
if (wanted('scene/')) await run(scenePairs());
if (wanted('kit/')) await run(kitPairs());
if (wanted('snag/')) await run(snagPairs());
// What a row does not need is not loaded before it: the browser's driver hands buffers over, and from the first that
// is, every look into an array is checked for whether its buffer is still there.
if (wanted('save/')) {
  const { savePairs } = await import('./save');
  const { pairs, close } = await savePairs();
  try {
    await run(pairs);
  } finally {
    await close();
  }
}
if (wanted('view/blocks')) for (const row of await (await import('./blocks')).blockRows()) add(row);
if (wanted('view/wide')) for (const row of await (await import('./wide')).wideRows()) add(row);
if (wanted('view/') && !['view/blocks', 'view/wide'].includes(values.only!)) for (const row of await (await import('./view')).viewRows()) add(row);
if (values.json) console.log(JSON.stringify(rows, null, 1));
