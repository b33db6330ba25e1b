/**
 * How well words that somebody typed fit a text: every word must be found, in any order, as a whole, as a beginning, inside
 * another, or with a slip of the hand.
 *
 * @returns 0 and more, larger is better; `undefined` where a word is not found
 */
export function forgiving(query: string, text: string): number | undefined {
  const asked = wordsOf(query);
  const words = wordsOf(text);
  let score = 0;
  for (const word of asked) {
    let best = 0;
    for (const w of words) best = Math.max(best, fit(word, w));
    if (best === 0) return undefined;
    score += best;
  }
  return score;
}

const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

function fit(asked: string, word: string): number {
  if (asked === word) return 4;
  if (word.startsWith(asked)) return 3;
  if (asked.length >= 3 && word.includes(asked)) return 2;
  // One slip in four letters, two in eight; a beginning may be slipped too.
  const slips = asked.length >= 8 ? 2 : asked.length >= 4 ? 1 : 0;
  if (slips === 0) return 0;
  return apart(asked, word, slips) || (word.length > asked.length && apart(asked, word.slice(0, asked.length), slips)) ? 1 : 0;
}

/** Whether two words are at most so many slips apart: a letter more, less, other, or two that changed places (Damerau, 1964). */
function apart(a: string, b: string, most: number): boolean {
  if (Math.abs(a.length - b.length) > most) return false;
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, j) => j)];
  for (let i = 1; i <= a.length; i++) {
    rows.push([i]);
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      let n = Math.min(rows[i - 1][j] + 1, rows[i][j - 1] + 1, rows[i - 1][j - 1] + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) n = Math.min(n, rows[i - 2][j - 2] + 1);
      rows[i].push(n);
    }
  }
  return rows[a.length][b.length] <= most;
}
