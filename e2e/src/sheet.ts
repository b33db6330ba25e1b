import { expect, test as base, type Page } from '@playwright/test';
import { cameraOf, type Camera } from '@rammer/core/cost/camera';
import type { Pose } from '@rammer/core/level/objects';
import { tanDeg } from '@rammer/core/num/trig';
import { dot, sub, type Vec3 } from '@rammer/core/num/vec';
import { Rammer } from './rammer';

/** A test with a server of its own file's; any console error, page error or policy violation fails it. */
export const test = base.extend<{ quiet: boolean; faults: string[] }, { rammer: Rammer }>({
  rammer: [
    async ({}, use) => {
      const r = await Rammer.start();
      await use(r);
      await r.stop();
    },
    { scope: 'worker', timeout: 240_000 },
  ],
  /** set false where the network is cut on purpose */
  quiet: [true, { option: true }],
  faults: [
    async ({ page, quiet }, use) => {
      const faults: string[] = [];
      watch(page, faults);
      await use(faults);
      if (quiet) expect(faults).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

/** A browser in which somebody chose the plain picture: drawing in software, two cores are soon at their end. `lights` and `picture` look at the full one. */
const plainPicture = (): void => {
  // A page of nowhere keeps nothing.
  if (location.origin === 'null') return;
  if (!localStorage.getItem('rammer-picture')) localStorage.setItem('rammer-picture', '{"choice":"plain","refine":false}');
};

export function watch(page: Page, faults: string[]): void {
  void page.addInitScript(plainPicture);
  page.on('console', (m) => {
    if (m.type() === 'error') faults.push(`console: ${m.text()}`);
  });
  page.on('pageerror', (e) => {
    faults.push(`page: ${e.message}`);
    if (process.env.RAMMER_E2E_STACKS) console.log(e.stack);
  });
  void page.addInitScript(() => document.addEventListener('securitypolicyviolation', (e) => console.error(`policy: ${e.violatedDirective} ${e.blockedURI}`)));
}

/** The open level as a person sees it: the view's pixels, and what the sheet says. */
export class Sheet {
  constructor(
    readonly page: Page,
    readonly eye = 1.65,
  ) {}

  async open(url: string): Promise<void> {
    await this.page.goto(url);
    await this.ready();
  }

  /** Makes a level by the form, with the size that follows from the body. */
  async newLevel(base: string, name: string): Promise<void> {
    await this.page.goto(`${base}/new`);
    await this.page.getByLabel('name', { exact: true }).fill(name);
    await this.page.getByRole('button', { name: 'Make the level' }).click();
    await this.ready();
  }

  async ready(): Promise<void> {
    await expect(this.page.getByTestId('drawn')).toHaveAttribute('data-drawn-draws', /\d/, { timeout: 90_000 });
  }

  /** A link to the same level at another pose, stage or overlay. */
  async look(pose: Pose, more: Record<string, string> = {}): Promise<void> {
    const url = new URL(this.page.url());
    url.searchParams.set('pose', [pose.view, ...pose.target, pose.yaw, pose.pitch, pose.distance].join('_'));
    for (const [k, v] of Object.entries(more)) url.searchParams.set(k, v);
    await this.saved();
    await this.open(url.href);
  }

  plan(x: number, z: number, metres: number, more: Record<string, string> = {}): Promise<void> {
    return this.look({ view: 'plan', target: [x, 0, z], yaw: 0, pitch: -90, distance: metres }, more);
  }

  /** The pose of the last picture, once no other comes after it. */
  async pose(): Promise<Pose> {
    const drawn = this.page.getByTestId('drawn');
    const read = async () => [await drawn.getAttribute('data-pose'), await drawn.getAttribute('data-frames')];
    let now = await read();
    for (let i = 0, still = 0; i < 24 && still < 2; i++) {
      await this.page.waitForTimeout(130);
      const next = await read();
      still = next[0] === now[0] && next[1] === now[1] ? still + 1 : 0;
      now = next;
    }
    const [view, ...n] = now[0]!.split('_');
    const v = n.map(Number);
    return { view: view as Pose['view'], target: [v[0], v[1], v[2]], yaw: v[3], pitch: v[4], distance: v[5] };
  }

  /** The pixel of a point of the level. */
  async pixel(p: Vec3): Promise<[number, number]> {
    return (await this.pixels(p))[0];
  }

  /** The pixels of points, all at the pose of now. */
  async pixels(...points: Vec3[]): Promise<[number, number][]> {
    const box = (await this.page.getByTestId('view').boundingBox())!;
    const camera: Camera = cameraOf(await this.pose(), box.width / box.height, this.eye);
    return points.map((p) => pixelOf(p, camera, box));
  }

  /** What a point of the level looks like: the mean of 5 x 5 pixels, 0 to 255. */
  async colour(p: Vec3): Promise<[number, number, number]> {
    const [x, y] = await this.pixel(p);
    const png = await this.page.screenshot({ clip: { x: Math.round(x) - 2, y: Math.round(y) - 2, width: 5, height: 5 } });
    return this.page.evaluate(
      async (bytes) => {
        const bitmap = await createImageBitmap(new Blob([Uint8Array.from(bytes)], { type: 'image/png' }));
        const context = new OffscreenCanvas(5, 5).getContext('2d')!;
        context.drawImage(bitmap, 0, 0);
        const { data } = context.getImageData(0, 0, 5, 5);
        return [0, 1, 2].map((k) => Array.from({ length: 25 }, (_, i) => data[i * 4 + k]).reduce((a, b) => a + b) / 25) as [number, number, number];
      },
      [...png],
    );
  }

  async point(p: Vec3): Promise<void> {
    const [x, y] = await this.pixel(p);
    await this.page.mouse.move(x, y);
    await this.page.waitForTimeout(60);
  }

  async click(p: Vec3, modifiers: 'Shift'[] = []): Promise<void> {
    await this.point(p);
    for (const m of modifiers) await this.page.keyboard.down(m);
    await this.page.mouse.down();
    await this.page.mouse.up();
    for (const m of modifiers) await this.page.keyboard.up(m);
  }

  async drag(from: Vec3, to: Vec3, steps = 6): Promise<void> {
    const [[x0, y0], [x1, y1]] = await this.pixels(from, to);
    await this.dragPixels(x0, y0, x1, y1, steps);
  }

  async dragPixels(x0: number, y0: number, x1: number, y1: number, steps = 6): Promise<void> {
    await this.page.mouse.move(x0, y0);
    await this.page.mouse.down();
    for (let i = 1; i <= steps; i++) {
      await this.page.mouse.move(x0 + ((x1 - x0) * i) / steps, y0 + ((y1 - y0) * i) / steps);
      await this.page.waitForTimeout(30);
    }
    await this.page.mouse.up();
  }

  stage(name: string): Promise<void> {
    return this.page.getByRole('navigation', { name: 'stages' }).getByRole('button', { name }).click();
  }
  tool(name: string): Promise<void> {
    return this.page.locator('aside[aria-label=bench]').getByRole('button', { name, exact: false }).first().click();
  }
  /** Chooses a lift by its name in the column of the stack. */
  lift(name: string): Promise<void> {
    return this.lifts().getByText(name, { exact: true }).click();
  }
  /** A brush of the topmost hand lift, which is opened where it is not. */
  async brush(name: string): Promise<void> {
    const brush = this.page.getByRole('group', { name: 'brushes' }).getByRole('button', { name, exact: true });
    if (!(await brush.isVisible()))
      await this.lifts()
        .filter({ has: this.page.getByRole('img', { name: 'hand' }) })
        .first()
        .getByRole('button', { name: /^open/ })
        .click();
    await brush.click();
  }

  lifts() {
    return this.page.getByRole('list', { name: 'lifts' }).getByRole('listitem');
  }

  /** Stage Earth with the new level's noise made level: a yard to build on. */
  async flatYard(): Promise<void> {
    await this.stage('Earth');
    await this.lift('rough ground');
    await this.type('height', '0');
  }

  field(name: string) {
    return this.page.locator('aside[aria-label=bench]').getByLabel(name, { exact: true });
  }

  async type(name: string, value: string): Promise<void> {
    await this.field(name).fill(value);
    await this.field(name).press('Enter');
  }

  async number(name: string): Promise<number> {
    return Number(await this.field(name).inputValue());
  }

  /** Height in the status line under a point. */
  async heightAt(p: Vec3): Promise<number> {
    const [beside, at] = await this.pixels([p[0] + 0.3, p[1], p[2]], p);
    await this.page.mouse.move(...beside);
    await this.page.mouse.move(...at);
    await this.page.waitForTimeout(60);
    const text = await this.page.getByLabel('status').innerText();
    return Number(/height\s+(-?[\d.]+) m/.exec(text)![1]);
  }

  /** A key pressed so often, ten without waiting for what each shows: as fast as a hand that does not look. */
  async again(key: string, times: number): Promise<void> {
    for (let left = times; left > 0; left -= 10) await Promise.all(Array.from({ length: Math.min(left, 10) }, () => this.page.keyboard.press(key)));
  }

  rows(label: string) {
    return this.page.getByRole('grid', { name: label }).getByRole('row');
  }
  /** Every edit is on the browser's disk; whether the server has it is another matter. */
  async kept(): Promise<void> {
    await expect(this.page.getByTestId('save')).toHaveAttribute('data-kept', 'true');
  }
  async saved(): Promise<void> {
    await expect(this.page.getByTestId('save')).toHaveAttribute('data-state', 'saved', { timeout: 60_000 });
  }
  async undoCount(): Promise<number> {
    return Number(/(\d+) edits/.exec((await this.page.getByTestId('undo').getAttribute('aria-label'))!)![1]);
  }
}

function pixelOf(p: Vec3, camera: Camera, box: { x: number; y: number; width: number; height: number }): [number, number] {
  const d = sub(p, camera.eye);
  const half = camera.fov === 0 ? camera.halfHeight : dot(d, camera.forward) * tanDeg(camera.fov / 2);
  const k = box.height / 2 / half;
  return [box.x + box.width / 2 + dot(d, camera.right) * k, box.y + box.height / 2 - dot(d, camera.up) * k];
}
