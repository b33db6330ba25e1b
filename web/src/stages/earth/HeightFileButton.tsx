import { useEffect, useRef, useState, type CSSProperties } from 'react';
import { HEIGHT_FILES } from '@rammer/core/io/heightFile';
import { openHeightFile, type HeightFile } from '../../tools/heightFile';

/** Opens a file of heights; while it is loaded, the same button stops the loading. */
export function HeightFileButton({
  label,
  of,
  title,
  className = '',
  style,
  onStart,
  onFile,
}: {
  label: string;
  /** what the file is, for those who do not see it */ of: string;
  title: string;
  className?: string;
  style?: CSSProperties;
  onStart?(): void;
  onFile(file: HeightFile): void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [loading, setLoading] = useState<AbortController>();
  useEffect(() => () => loading?.abort(), [loading]);
  const open = (file: File) => {
    const stop = new AbortController();
    setLoading(stop);
    onStart?.();
    void openHeightFile(file, stop.signal)
      .then((read) => {
        if (read) onFile(read);
      })
      .finally(() => setLoading(undefined));
  };
  return (
    <>
      <button className={`act ${className}`} style={style} title={title} onClick={() => (loading ? loading.abort() : input.current?.click())}>
        {loading ? 'stop loading' : label}
      </button>
      <input
        ref={input}
        type="file"
        accept={HEIGHT_FILES}
        className="hidden"
        aria-label={of}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) open(file);
        }}
      />
    </>
  );
}
