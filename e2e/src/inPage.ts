import { fileURLToPath } from 'node:url';
import type { Browser, Page } from '@playwright/test';
import { build } from 'vite';

/** A page that has a module of this folder under a name of its own, built as the interface is. */
export async function pageWith(browser: Browser, file: string, name: string): Promise<Page> {
  const bundle = await build({
    configFile: false,
    logLevel: 'silent',
    root: fileURLToPath(new URL('.', import.meta.url)),
    build: { write: false, minify: false, lib: { entry: fileURLToPath(new URL(file, import.meta.url)), formats: ['iife'], name } },
  });
  const [output] = Array.isArray(bundle) ? bundle : [bundle];
  const code = 'output' in output ? output.output[0].code : '';
  const page = await browser.newPage();
  await page.addScriptTag({ content: code });
  return page;
}
