import { chromium, type Browser } from '@playwright/test';
import config from '../../e2e/playwright.config';

/** A browser that draws its pages as the ones of people without a graphics card do; the tests leave out what costs them time. */
export function launch(): Promise<Browser> {
  const options = config.use!.launchOptions!;
  return chromium.launch({ ...options, args: options.args!.filter((a) => a !== '--disable-gpu-compositing') });
}
