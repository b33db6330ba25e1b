import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState, type KeyboardEvent, type MouseEvent, type ReactNode } from 'react';

interface Props<T> {
  label: string;
  header: ReactNode;
  rows: readonly T[];
  row(item: T, index: number): ReactNode;
  empty: string;
}

/**
 * The stage's contents: 24 px rows under a sticky header; only the rows in sight are made. Up and down
 * move a mark through the rows, Enter and Space pick the marked one, as a click does.
 */
export function Table<T>({ label, header, rows, row, empty }: Props<T>) {
  const scroller = useRef<HTMLDivElement>(null);
  const [marked, mark] = useState<number>();
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => 24, overscan: 8 });

  const onKey = (e: KeyboardEvent<HTMLDivElement>) => {
    if (e.target !== e.currentTarget || rows.length === 0) return;
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      const next = marked === undefined ? 0 : Math.min(rows.length - 1, Math.max(0, marked + (e.key === 'ArrowDown' ? 1 : -1)));
      mark(next);
      virtual.scrollToIndex(next);
    } else if ((e.key === 'Enter' || e.key === ' ') && marked !== undefined) {
      scroller.current
        ?.querySelector<HTMLElement>(`[data-index="${marked}"] [role=row]`)
        ?.dispatchEvent(new globalThis.MouseEvent('click', { bubbles: true, shiftKey: e.shiftKey, ctrlKey: e.ctrlKey }));
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col border-t" style={{ borderColor: 'var(--ink)' }}>
      <div className="flex h-7 shrink-0 items-center gap-2 border-b px-3" style={{ borderColor: 'var(--hair)' }}>
        {header}
      </div>
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-y-auto"
        role={rows.length > 0 ? 'grid' : undefined}
        aria-multiselectable={rows.length > 0 ? true : undefined}
        aria-label={rows.length > 0 ? label : undefined}
        aria-rowcount={rows.length > 0 ? rows.length : undefined}
        tabIndex={rows.length > 0 ? 0 : undefined}
        onKeyDown={onKey}
        onBlur={() => mark(undefined)}
      >
        {rows.length === 0 && <p className="label m-0 px-3 py-2">{empty}</p>}
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }} role="presentation">
          {virtual.getVirtualItems().map((v) => (
            <div
              key={v.key}
              role="presentation"
              data-index={v.index}
              className={v.index === marked ? 'marked-row' : undefined}
              style={{ position: 'absolute', top: 0, left: 0, right: 0, transform: `translateY(${v.start}px)` }}
            >
              {row(rows[v.index], v.index)}
            </div>
          ))}
        </div>
      </div>
    </div>
  );
}

interface RowProps {
  selected?: boolean;
  title?: string;
  colour?: string;
  onClick(e: MouseEvent<HTMLDivElement>): void;
  children: ReactNode;
}

/** One row: what is in it may hold buttons of its own. */
export function Row({ selected = false, title, colour, onClick, children }: RowProps) {
  return (
    <div role="row" aria-selected={selected} className="sheet-row cursor-pointer" style={{ color: colour }} title={title} onClick={onClick}>
      <div role="gridcell" className="contents">
        {children}
      </div>
    </div>
  );
}
