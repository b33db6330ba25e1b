import { useRef, useState } from 'react';

/** A button that asks for a file and works on it; it waits until that is done. */
export function FileButton({
  words,
  label,
  accept,
  title,
  onFile,
}: {
  words: string;
  /** names the file that is asked for */
  label: string;
  accept: string;
  title: string;
  onFile(file: File): Promise<void>;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  return (
    <>
      <button className="act" style={{ padding: '0 7px', minHeight: 24 }} disabled={busy} title={title} onClick={() => input.current?.click()}>
        {busy ? 'loading' : words}
      </button>
      <input
        ref={input}
        type="file"
        accept={accept}
        className="hidden"
        aria-label={label}
        onChange={(e) => {
          const given = e.target.files?.[0];
          e.target.value = '';
          if (!given) return;
          setBusy(true);
          void onFile(given).finally(() => setBusy(false));
        }}
      />
    </>
  );
}
