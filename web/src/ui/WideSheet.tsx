import { useEffect, type ReactNode } from 'react';

/** A sheet over the view: its title, what stands in its head, and a way to close it. Escape closes it too. */
export function WideSheet({ label, title, head, onClose, children }: { label: string; title: string; head: ReactNode; onClose(): void; children: ReactNode }) {
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key !== 'Escape') return;
      e.stopPropagation();
      onClose();
    };
    window.addEventListener('keydown', key, true);
    return () => window.removeEventListener('keydown', key, true);
  }, [onClose]);
  return (
    <section
      aria-label={label}
      className="absolute inset-0 z-20 flex flex-col"
      style={{ background: 'var(--paper)' }}
      onPointerDown={(e) => e.stopPropagation()}
      onKeyDown={(e) => e.key !== 'Escape' && e.stopPropagation()}
    >
      <header className="flex h-9 shrink-0 items-center gap-3 border-b px-3" style={{ borderColor: 'var(--ink)', background: 'var(--raised)' }}>
        <h2 className="m-0 text-[15px] font-semibold">{title}</h2>
        {head}
        <button className="act" onClick={onClose}>
          close
        </button>
      </header>
      <div className="flex min-h-0 flex-1">{children}</div>
    </section>
  );
}
