import type { Terrain } from '../earth/compose';
import { contours } from '../earth/overlays/contours';

/** Every fifth contour is drawn heavier. */
const HEAVY = 5;

/**
 * Contours of the ground as SVG, one unit a metre, north up: one group a height, which says it in `data-height`
 * and, on its longest line, in words.
 *
 * @param step metres between two heights
 */
export function contoursSvg({ grid, heights }: Pick<Terrain, 'grid' | 'heights'>, step: number): string {
  const byHeight = new Map<number, ReturnType<typeof contours>>();
  for (const line of contours({ grid, heights }, step)) byHeight.set(line.height, [...(byHeight.get(line.height) ?? []), line]);
  const groups = [...byHeight].map(([height, lines]) => {
    const heavy = Math.round(height / step) % HEAVY === 0;
    const paths = lines.map(({ points, closed }) => {
      const at = Array.from({ length: points.length / 2 }, (_, i) => `${points[i * 2].toFixed(2)} ${points[i * 2 + 1].toFixed(2)}`);
      return `<path d="M${(closed ? at.slice(0, -1) : at).join('L')}${closed ? 'Z' : ''}"/>`;
    });
    const { points } = lines.reduce((a, b) => (b.length > a.length ? b : a));
    const k = Math.floor(points.length / 4) * 2;
    return (
      `<g data-height="${height}" stroke-width="${heavy ? 0.3 : 0.12}">${paths.join('')}<text ` +
      `x="${points[k].toFixed(2)}" y="${points[k + 1].toFixed(2)}">${height}</text></g>`
    );
  });
  return (
    `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" width="${grid.width}mm" ` +
    `height="${grid.depth}mm" viewBox="0 0 ${grid.width} ${grid.depth}"><title>contours each ${step} m</title><g fill="none" ` +
    `stroke="#17211f">${groups.join('\n').replace(/<text/g, '<text fill="#17211f" stroke="none" font-size="2" text-anchor="middle"')}</g></svg>\n`
  );
}
