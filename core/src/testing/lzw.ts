/** Packs bytes as TIFF's LZW, by a table of texts: slow and plain, for tests. */
export function packLzw(bytes: Uint8Array): Uint8Array {
  let [out, run, width] = ['', '', 9];
  let table = new Map<string, number>();
  const put = (code: number) => {
    out += code.toString(2).padStart(width, '0');
  };
  const codeOf = (text: string) => (text.length === 1 ? text.charCodeAt(0) : table.get(text)!);
  put(256);
  for (const byte of bytes) {
    const next = run + String.fromCharCode(byte);
    if (next.length === 1 || table.has(next)) {
      run = next;
      continue;
    }
    put(codeOf(run));
    const code = 258 + table.size;
    table.set(next, code);
    // A width is given up when its last code but one is made (section 13: "as soon as we add table entry 511").
    if (code === 4094) {
      put(256);
      [table, width] = [new Map(), 9];
    } else if (code === 511 || code === 1023 || code === 2047) width++;
    run = String.fromCharCode(byte);
  }
  if (run) {
    put(codeOf(run));
    const code = 258 + table.size;
    if (code === 511 || code === 1023 || code === 2047) width++;
  }
  put(257);
  return Uint8Array.from(out.padEnd(Math.ceil(out.length / 8) * 8, '0').match(/.{8}/g)!, (b) => parseInt(b, 2));
}
