import { z } from 'zod';
import { parseJson } from '@rammer/core/io/json';
import { parseEdit, type Edit } from '@rammer/core/level/edits/index';
import { applyEdits } from '../db/applyEdits';
import type { Database } from '../db/open';
import { databaseIsFull, diskFull, Problem } from '../problem';

/** A batch of edits as it came to the door. */
export interface EditsAsked {
  levelId: string;
  body: Uint8Array;
}

/** What the door answers: a status and a body, or a problem. */
export type EditsAnswer = { status: 200; body: unknown } | { problem: { status: number; code: string; message: string; extra: Record<string, unknown> } };

export const client = z.string().regex(/^[A-Za-z0-9-]{8,64}$/, 'a client names itself with 8 to 64 letters, digits or -');
export const editsSchema = z.object({ client, base: z.number().int().min(0), force: z.boolean().default(false), edits: z.array(z.unknown()).min(1).max(500) });

/** Every tile of the widest level weathered at once, four rasters, is about 40 MB. */
export const MAX_EDITS = 96 << 20;
const LIMITS = { bytes: MAX_EDITS, depth: 40, values: 2_000_000 };

/** Reads a batch, applies it and says what came of it. In a child where it is large: nothing in here gives way. */
export async function sendEdits(db: Database, { levelId, body }: EditsAsked): Promise<EditsAnswer> {
  try {
    return { status: 200, body: await apply(db, levelId, body) };
  } catch (error) {
    const problem = databaseIsFull(error) ? diskFull() : error;
    if (!(problem instanceof Problem)) throw error;
    const { status, code, message, extra } = problem;
    return { problem: { status, code, message, extra } };
  }
}

async function apply(db: Database, levelId: string, bytes: Uint8Array): Promise<unknown> {
  const json = parseJson('the request', bytes, LIMITS);
  if (!json.ok) throw new Problem(json.code === 'json-too-large' ? 413 : 400, json.code === 'json-invalid' ? 'body-not-json' : json.code, json.message);
  const parsed = editsSchema.safeParse(json.value);
  if (!parsed.success) throw new Problem(400, 'body-invalid', `${parsed.error.issues[0].path.join('.') || 'body'}: ${parsed.error.issues[0].message}`);
  const { client: who, base, force, edits } = parsed.data;
  const list: Edit[] = [];
  const given: string[] = [];
  const seen = new Map<string, number>();
  for (const [i, value] of edits.entries()) {
    const read = parseEdit(value);
    if (!read.ok) throw new Problem(422, read.code, read.message, { index: i, ...idOf(value) });
    // A uuid is the same in capitals; the answer names it as it came.
    given.push(read.edit.id);
    const edit = { ...read.edit, id: read.edit.id.toLowerCase() };
    const first = seen.get(edit.id);
    if (first !== undefined)
      throw new Problem(422, 'edit-repeated', `edits ${first} and ${i} of this batch have the same uuid: each edit has its own`, {
        index: i,
        id: read.edit.id,
      });
    seen.set(edit.id, i);
    list.push(edit);
  }
  const outcome = await applyEdits(db, levelId, { client: who, base, list, force });
  if (outcome.kind === 'missing') throw new Problem(404, 'level-missing', 'there is no such level; it may have been deleted');
  if (outcome.kind === 'not-writer') throw new Problem(423, 'not-writer', 'another tab or machine is writing this level; take over to write here');
  if (outcome.kind === 'conflict')
    throw new Problem(409, 'conflict', 'the level was changed elsewhere in the same places', { version: outcome.version, conflicts: outcome.conflicts });
  return { version: outcome.version, results: outcome.results.map((r, i) => ({ ...r, id: given[i] })), rebased: outcome.rebased };
}

/** Names the edit that a problem is about, where it has a name. */
function idOf(value: unknown): { id?: string } {
  const id = (value as { id?: unknown } | null)?.id;
  return typeof id === 'string' && id.length <= 64 ? { id } : {};
}
