import { useState, type ReactNode, type RefObject } from 'react';
import type { Session } from '../store/session';
import { droppedFiles, openFiles } from '../tools/comingMeshes';

/** The middle of the sheet, where files and folders of meshes can be dropped. */
export function DropMeshes({ session, inner, children }: { session: Session; inner: RefObject<HTMLDivElement | null>; children: ReactNode }) {
  const [over, setOver] = useState(false);
  return (
    <div
      ref={inner}
      className="relative flex min-w-0 flex-1 flex-col"
      data-testid="drop"
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes('Files')) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(e) => {
        if (!e.dataTransfer.types.includes('Files')) return;
        e.preventDefault();
        setOver(false);
        void droppedFiles(e.dataTransfer.items).then((files) => openFiles(session, files));
      }}
    >
      {children}
      {over && (
        <div className="pointer-events-none absolute inset-2 z-30 grid place-items-center border-2 border-dashed" style={{ borderColor: 'var(--ink)' }}>
          <p className="m-0 border px-3 py-2" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>
            Let go to look at these meshes; nothing is kept yet
          </p>
        </div>
      )}
    </div>
  );
}
