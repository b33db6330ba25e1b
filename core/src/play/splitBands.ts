/** Splits tiles into bands of whole rows with about as many tiles each, for as many to bake at once; fewer where there are not so many rows. */
export function splitBands(tiles: readonly number[], across: number, most: number): number[][] {
  const sorted = [...tiles].sort((a, b) => a - b);
  const bands: number[][] = [];
  let from = 0;
  for (let i = 0; i < most && from < sorted.length; i++) {
    let to = i === most - 1 ? sorted.length : Math.min(sorted.length, from + Math.ceil((sorted.length - from) / (most - i)));
    while (to < sorted.length && Math.floor(sorted[to] / across) === Math.floor(sorted[to - 1] / across)) to++;
    bands.push(sorted.slice(from, to));
    from = to;
  }
  return bands;
}
