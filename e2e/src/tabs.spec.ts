import { chromium, expect, Sheet, test, watch } from './tabs';

/** A new level with one block at x = 10, opened at Block. */
async function newLevel(sheet: Sheet, base: string, name: string): Promise<string> {
  await sheet.page.goto(`${base}/new`);
  await sheet.page.getByLabel('name', { exact: true }).fill(name);
  await sheet.page.getByRole('button', { name: 'Make the level' }).click();
  await sheet.ready();
  await sheet.plan(80, 80, 40, { stage: 'block' });
  await sheet.page.keyboard.press('r');
  await sheet.click([80, 0, 80]);
  await expect(sheet.rows('blocks')).toHaveCount(1);
  await sheet.saved();
  return sheet.page.url();
}

const state = (sheet: Sheet) => sheet.page.getByTestId('save');
const select = async (sheet: Sheet) => {
  await sheet.rows('blocks').first().click();
};

test('two tabs: the second reads only, takes over, and nothing is lost', async ({ page, context, rammer, faults }) => {
  const one = new Sheet(page);
  const url = await newLevel(one, rammer.base, 'Two tabs');
  const second = await context.newPage();
  watch(second, faults);
  const two = new Sheet(second);
  await two.open(url);
  await expect(state(two)).toHaveAttribute('data-state', 'read-only');
  // What the first does is seen by the second; what the second tries is refused and said.
  await select(one);
  await one.type('turn', '30');
  await one.saved();
  await select(two);
  await expect.poll(() => two.number('turn'), { timeout: 20_000 }).toBe(30);
  await second.getByTestId('view').locator('canvas').focus();
  await second.keyboard.press('Delete');
  await expect(second.getByTestId('message')).toContainText('read only here: take over');
  await expect(two.rows('blocks')).toHaveCount(1);

  await second.getByRole('button', { name: 'Take over' }).click();
  await two.saved();
  await expect(state(one)).toHaveAttribute('data-state', 'read-only');
  await two.rows('blocks').first().click();
  await two.type('turn', '45');
  await two.saved();
  await expect.poll(() => one.number('turn'), { timeout: 20_000 }).toBe(45);
  // Back again, with the second's undo list: it belongs to the level, not to the tab.
  await page.getByRole('button', { name: 'Take over' }).click();
  await one.saved();
  await expect(state(two)).toHaveAttribute('data-state', 'read-only');
  await page.getByTestId('view').locator('canvas').focus();
  await page.keyboard.press('Control+z');
  await expect.poll(() => one.number('turn')).toBe(30);
  await one.saved();
});

test('two browsers: the same, over the lease on the server', async ({ page, rammer, faults }) => {
  const one = new Sheet(page);
  const url = await newLevel(one, rammer.base, 'Two browsers');
  const other = await chromium();
  const far = await other.newPage();
  watch(far, faults);
  const two = new Sheet(far);
  await two.open(url);
  await expect(state(two)).toHaveAttribute('data-state', 'read-only');
  // The first does not hear of the take-over before it makes its next edit.
  const deafen = () => page.route('**/lease', (route) => route.abort());
  await deafen();
  await far.getByRole('button', { name: 'Take over' }).click();
  await two.saved();
  await select(two);
  await two.type('turn', '60');
  await two.saved();
  // It learns of it with that edit, which waits and is not lost.
  await select(one);
  await one.type('height', '7');
  await expect(state(one)).toHaveAttribute('data-state', 'read-only', { timeout: 20_000 });
  await expect(state(one)).toContainText('1 waiting');
  await page.unroute('**/lease');
  await page.getByRole('button', { name: 'Take over' }).click();
  await one.saved();
  await expect.poll(() => one.number('turn')).toBe(60);
  await expect.poll(() => one.number('height')).toBe(7);

  // A true conflict: both change one field. It is shown, and the one who is asked decides.
  await expect(state(two)).toHaveAttribute('data-state', 'read-only', { timeout: 20_000 });
  await deafen();
  await far.getByRole('button', { name: 'Take over' }).click();
  await two.saved();
  await select(two);
  await two.type('turn', '10');
  await two.saved();
  await one.type('turn', '20');
  await expect(state(one)).toHaveAttribute('data-state', 'read-only', { timeout: 20_000 });
  await page.unroute('**/lease');
  await page.getByRole('button', { name: 'Take over' }).click();
  await expect(state(one)).toHaveAttribute('data-state', 'conflict');
  await page.getByRole('button', { name: 'Keep mine' }).click();
  await one.saved();
  await expect.poll(() => one.number('turn')).toBe(20);
  // The browser writes refused requests on the console.
  expect(faults.splice(0).every((f) => /status of (409|423)|ERR_FAILED/.test(f))).toBe(true);
  await other.close();
});
