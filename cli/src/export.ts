import { closeSync, mkdirSync, openSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { assemble } from '@rammer/core/scene/parts';
import { assetFilesOf } from '@rammer/core/io/assetFiles';
import { levelGlbStream } from '@rammer/core/io/glb';
import type { GlbStream } from '@rammer/core/io/glbStream';
import { blocksToObj } from '@rammer/core/io/obj';
import { contoursSvg } from '@rammer/core/io/contoursSvg';
import { terrainLodsToGlb } from '@rammer/core/io/terrainGlb';
import { groundIndexPng, heightsPng, heightsRaw, weightsPng } from '@rammer/core/io/rasters';
import type { Command } from './command';

/**
 * Writes the level in open formats to a folder: GLB plain and instanced, its assets each by itself, heights as PNG and RAW, contours, ground and weights,
 * OBJ of the blocks.
 */
export const exportLevel: Command = async (level, { assets, kernel, out }) => {
  if (!out) throw new Error('export needs a folder to write to: --out FOLDER');
  const parts = await assemble(level, assets, kernel);
  mkdirSync(out, { recursive: true });
  const files: { file: string; bytes: number }[] = [];
  const put = (file: string, content: Uint8Array | string) => {
    writeFileSync(join(out, file), content);
    files.push({ file, bytes: typeof content === 'string' ? Buffer.byteLength(content) : content.length });
  };
  const stream = ({ bytes, chunks }: GlbStream, file: string) => {
    const fd = openSync(join(out, file), 'w');
    try {
      for (const chunk of chunks()) writeFileSync(fd, chunk);
    } finally {
      closeSync(fd);
    }
    files.push({ file, bytes });
  };
  stream(await levelGlbStream(level, parts.terrain, { parts, built: parts.built }), 'level.glb');
  stream(await levelGlbStream(level, parts.terrain, { parts, built: parts.built, instanced: true }), 'level-instanced.glb');
  mkdirSync(join(out, 'assets'), { recursive: true });
  for (const { file, glb } of await assetFilesOf(level, assets, parts.species)) put(file, glb);
  put('terrain-lods.glb', (await terrainLodsToGlb(parts.terrain)).glb);
  const heights = heightsPng(parts.terrain);
  put('heights.png', heights.png);
  put('heights.json', `${JSON.stringify(heights.sidecar, null, 1)}\n`);
  const raw = heightsRaw(parts.terrain);
  put('heights.raw', raw.raw);
  put('heights-raw.json', `${JSON.stringify(raw.sidecar, null, 1)}\n`);
  put('contours.svg', contoursSvg(parts.terrain, 1));
  const index = groundIndexPng(parts.ground);
  put('ground.png', index.png);
  put('ground.json', `${JSON.stringify(index.sidecar, null, 1)}\n`);
  const weights = weightsPng(parts.ground);
  weights.pngs.forEach((png, i) => put(i === 0 ? 'weights.png' : `weights-${i + 1}.png`, png));
  put('weights.json', `${JSON.stringify(weights.sidecar, null, 1)}\n`);
  put('blocks.obj', blocksToObj(parts.blocks, parts.built));
  const report = {
    out,
    files,
    pieces: parts.pieces.length - parts.built.length,
    plants: parts.grown.reduce((s, g) => s + g.count, 0),
    blocks: parts.blocks.length + parts.built.length,
  };
  return {
    report,
    text: [`${report.blocks} blocks, ${report.pieces} pieces, ${report.plants} plants`, ...files.map((f) => `  ${f.file.padEnd(22)} ${f.bytes} bytes`)].join(
      '\n',
    ),
    exit: 0,
  };
};
