/** What the list of levels says of one: the answer of `/api/levels`. Metres; times in ISO 8601. */
export interface LevelSummary {
  id: string;
  name: string;
  version: number;
  width: number;
  depth: number;
  tilesX: number;
  tilesZ: number;
  spacing: number;
  blocks: number;
  savedAt: string;
  /** the last check and whether the level has changed since */
  check: { reached: boolean; length: number; walkTime: number; message?: string; snags: number; stale: boolean } | null;
}
