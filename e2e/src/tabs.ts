import { chromium as playwright, type Browser } from '@playwright/test';
import config from '../playwright.config';

export * from './sheet';

/** Another browser, with a profile of its own. */
export const chromium = (): Promise<Browser> => playwright.launch(config.use!.launchOptions);
