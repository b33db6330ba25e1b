const METRES: Record<string, number> = { m: 1, cm: 0.01, mm: 0.001, km: 1000, ft: 0.3048, in: 0.0254 };

/**
 * Reads a quantity: numbers with + - * / and brackets, each with an optional length unit where the
 * field is in metres. `2*1.2+0.35`, `180cm`, `6ft`. A comma reads as a decimal point.
 *
 * @returns the value in the field's unit, or `undefined` where it cannot be read
 */
export function parseQuantity(text: string, unit?: string): number | undefined {
  const source = text.replace(/,/g, '.').replace(/\s+/g, '').replace(/[°%]$/, '');
  let at = 0;
  const number = (): number => {
    if (source[at] === '(') {
      at++;
      const inner = sum();
      if (source[at] !== ')') throw new SyntaxError();
      at++;
      return inner;
    }
    if (source[at] === '-' || source[at] === '+') return (source[at++] === '-' ? -1 : 1) * number();
    const m = /^(\d+\.?\d*|\.\d+)/.exec(source.slice(at));
    if (!m) throw new SyntaxError();
    const word = /^[a-z]+/i.exec(source.slice(at + m[1].length))?.[0]?.toLowerCase() ?? '';
    at += m[1].length + word.length;
    if (word === '') return Number(m[1]);
    if (unit === 'm' && Object.hasOwn(METRES, word)) return Number(m[1]) * METRES[word];
    if (word === unit?.toLowerCase()) return Number(m[1]);
    throw new SyntaxError();
  };
  const product = (): number => {
    let v = number();
    while (source[at] === '*' || source[at] === '/') v = source[at++] === '*' ? v * number() : v / number();
    return v;
  };
  const sum = (): number => {
    let v = product();
    while (source[at] === '+' || source[at] === '-') v = source[at++] === '+' ? v + product() : v - product();
    return v;
  };
  try {
    const v = sum();
    return at === source.length && Number.isFinite(v) ? v : undefined;
  } catch {
    return undefined;
  }
}
