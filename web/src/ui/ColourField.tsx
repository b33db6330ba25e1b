import { useEffect, useState } from 'react';

/** A colour that can be picked or typed as `#rrggbb`; committed when the picker closes or the text is left. */
export function ColourField({
  label,
  hideLabel = false,
  value,
  disabled,
  onCommit,
}: {
  label: string;
  hideLabel?: boolean;
  value: string;
  disabled?: boolean;
  onCommit(value: string): void;
}) {
  const [draft, setDraft] = useState<string>();
  useEffect(() => {
    if (draft === undefined || draft === value) return;
    // A picker tells every shade it is dragged over; what stays for a moment is meant.
    const timer = setTimeout(() => {
      onCommit(draft);
      setDraft(undefined);
    }, 350);
    return () => clearTimeout(timer);
  }, [draft, value, onCommit]);
  return (
    <label className="flex items-center justify-between gap-2">
      <span className={hideLabel ? 'sr-only' : 'label whitespace-nowrap'}>{label}</span>
      <input
        type="color"
        className="h-6 w-[52px] cursor-pointer border bg-transparent p-0"
        style={{ borderColor: 'var(--edge)' }}
        value={draft ?? value}
        disabled={disabled}
        onChange={(e) => setDraft(e.target.value)}
      />
    </label>
  );
}
