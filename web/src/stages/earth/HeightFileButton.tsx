import { useEffect, useRef, useState, type CSSProperties } from 'react';
import { HEIGHT_FILES } from '@rammer/core/io/heightFile';
import { openHeightFile, type HeightFile } from '../../tools/heightFile';

/** Opens a file of heights; while it is read, the same button stops the reading. */
export function HeightFileButton({ label, of, title, className = '', style, onStart, onFile }: { label: string; /** what the file is, for those who do not see it */ of: string; title: string; className?: string; style?: CSSProperties; onStart?(): void; onFile(file: HeightFile): void }) {
  const input = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState<AbortController>();
  useEffect(() => () => reading?.abort(), [reading]);
  const open = (file: File) => {
    const stop = new AbortController();
    setReading(stop);
    onStart?.();
    void openHeightFile(file, stop.signal).then((read) => { if (read) onFile(read); }).finally(() => setReading(undefined));
  };
  return (
    <>
      <button className={`act ${className}`} style={style} title={title} onClick={() => (reading ? reading.abort() : input.current?.click())}>{reading ? 'stop reading' : label}</button>
      <input ref={input} type="file" accept={HEIGHT_FILES} className="hidden" aria-label={of} onChange={(e) => { const file = e.target.files?.[0]; e.target.value = ''; if (file) open(file); }} />
    </>
  );
}
