/**
 * Objects of documents before version 6 in today's form. Until then a level had one rule of the ground,
 * `above` where it is steeper than `slope` and else `below`; it becomes two.
 *
 * @param given as in the document, not checked yet
 */
export function upgradeObject(given: unknown): unknown[] {
  const o = given as Record<string, unknown> | null;
  if (o?.kind !== 'groundRule' || o.above === undefined || o.where !== undefined) return [given];
  const { below, above, slope, soft, ...rest } = o;
  return [
    { id: `${String(o.id).slice(0, 58)}-below`, version: 1, kind: 'groundRule', name: 'everywhere', order: 0, surface: below, where: [] },
    { ...rest, order: 10, surface: above, where: [{ by: 'slope', band: [slope, 90], soft }] },
  ];
}
