/** A version of an object's fields, as it was written: not checked yet. */
type Given = Record<string, unknown>;

/** Kinds of objects that were called otherwise before version 7. */
const RENAMED_KINDS: Record<string, string> = { mood: 'lighting', span: 'measure', figures: 'people', rim: 'playBounds' };

/** Fields that were called otherwise before version 7, by the kind that has them. */
const RENAMED_FIELDS: Record<string, Record<string, string>> = { settings: { mood: 'lighting' }, asset: { mould: 'cast' } };

/** Codes of findings that were called otherwise before version 7. */
const RENAMED_FINDINGS: Record<string, string> = { 'size-unreal': 'size-unlikely', 'rim-walked-off': 'bounds-walked-off', 'rim-hole': 'bounds-hole' };

/** Fields of a patch by their names of today, whatever object it is for. */
const PATCHED = Object.assign({}, ...Object.values(RENAMED_FIELDS)) as Record<string, string>;

/**
 * An object of a document before version 7 in today's form; the same object where nothing is to be done.
 * Until version 6 a level had one rule of the ground, `above` where it is steeper than `slope` and else
 * `below`; it becomes two. Until version 7 some kinds, fields and findings had other names.
 *
 * @param given as in the document, not checked yet
 */
export function upgradeObject(given: unknown): unknown[] {
  const o = given as Given | null;
  if (o?.kind === 'groundRule' && o.above !== undefined && o.where === undefined) return splitRule(o);
  return [renamed(given)];
}

/**
 * An edit that an older Rammer wrote (in the log, in a browser's outbox or its undo) in today's form; the same
 * edit where nothing is to be done. The objects it adds, the fields it sets and the keys it states are renamed.
 */
export function upgradeEdit(given: unknown): unknown {
  const edit = given as Given | null;
  if (edit === null || typeof edit !== 'object') return given;
  if (edit.kind === 'together' && Array.isArray(edit.parts)) return replaced(edit, { parts: each(edit.parts, upgradeEdit), ...keysOf(edit) });
  if (edit.kind === 'add' && Array.isArray(edit.objects)) return replaced(edit, { objects: each(edit.objects, renamed) });
  if (edit.kind === 'set' && Array.isArray(edit.patches)) return replaced(edit, { patches: each(edit.patches, upgradePatch), ...keysOf(edit) });
  return given;
}

function splitRule({ below, above, slope, soft, ...rest }: Given): unknown[] {
  return [
    { id: `${String(rest.id).slice(0, 58)}-below`, version: 1, kind: 'groundRule', name: 'everywhere', order: 0, surface: below, where: [] },
    { ...rest, order: 10, surface: above, where: [{ by: 'slope', band: [slope, 90], soft }] },
  ];
}

function renamed(given: unknown): unknown {
  const o = given as Given | null;
  if (o === null || typeof o !== 'object' || typeof o.kind !== 'string') return given;
  if (Object.hasOwn(RENAMED_KINDS, o.kind)) return { ...o, kind: RENAMED_KINDS[o.kind] };
  if (o.kind === 'acceptance' && typeof o.snag === 'string' && Object.hasOwn(RENAMED_FINDINGS, o.snag)) return { ...o, snag: RENAMED_FINDINGS[o.snag] };
  return Object.hasOwn(RENAMED_FIELDS, o.kind) ? withNames(o, RENAMED_FIELDS[o.kind]) : o;
}

function upgradePatch(given: unknown): unknown {
  const set = (given as { set?: Given } | null)?.set;
  if (set === undefined || set === null || typeof set !== 'object') return given;
  return replaced(given as Given, { set: withNames(set, PATCHED) });
}

/** The writes an edit states, with the fields of today. */
function keysOf(edit: Given): Given {
  if (!Array.isArray(edit.writes)) return {};
  return {
    writes: each(edit.writes, (key) => {
      const [object, field] = String(key).split('/');
      return typeof key === 'string' && object.startsWith('o:') && field !== undefined && Object.hasOwn(PATCHED, field) ? `${object}/${PATCHED[field]}` : key;
    }),
  };
}

/** The same fields under the names of today; the object itself where it has none of the old ones. */
function withNames(o: Given, names: Record<string, string>): Given {
  if (!Object.keys(names).some((old) => Object.hasOwn(o, old))) return o;
  return Object.fromEntries(Object.entries(o).map(([k, v]) => [Object.hasOwn(names, k) ? names[k] : k, v]));
}

/** A list mapped; itself where nothing changed, so that large edits that are of today are not copied. */
function each(list: unknown[], change: (one: unknown) => unknown): unknown[] {
  const next = list.map(change);
  return next.every((one, i) => one === list[i]) ? list : next;
}

const replaced = (o: Given, fields: Given): Given => (Object.entries(fields).every(([k, v]) => o[k] === v) ? o : { ...o, ...fields });
