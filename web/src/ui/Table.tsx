import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, type ReactNode } from 'react';

interface Props<T> {
  label: string;
  header: ReactNode;
  rows: readonly T[];
  row(item: T, index: number): ReactNode;
  empty: string;
}

/** The stage's contents: 24 px rows under a sticky header; only the rows in sight are made. */
export function Table<T>({ label, header, rows, row, empty }: Props<T>) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => 24, overscan: 8 });
  return (
    <div className="flex min-h-0 flex-1 flex-col border-t" style={{ borderColor: 'var(--ink)' }}>
      <div className="flex h-7 shrink-0 items-center gap-2 border-b px-3" style={{ borderColor: 'var(--hair)' }}>{header}</div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto" role="listbox" aria-multiselectable aria-label={label} tabIndex={0}>
        {rows.length === 0 && <p className="label m-0 px-3 py-2">{empty}</p>}
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }} role="presentation">
          {virtual.getVirtualItems().map((v) => (
            <div key={v.key} role="presentation" style={{ position: 'absolute', top: 0, left: 0, right: 0, transform: `translateY(${v.start}px)` }}>{row(rows[v.index], v.index)}</div>
          ))}
        </div>
      </div>
    </div>
  );
}
