/**
 * `draw=` of a link, for benchmarks: `fixed` quality, that of a software renderer in motion, `fine` without LODs, `all` without
 * culling, `apart` without instancing.
 */
export function drawOptions(): { fixed: boolean; fine: boolean; all: boolean; apart: boolean } {
  const asked = (new URLSearchParams(location.search).get('draw') ?? '').split(',');
  return { fixed: asked.includes('fixed'), fine: asked.includes('fine'), all: asked.includes('all'), apart: asked.includes('apart') };
}
