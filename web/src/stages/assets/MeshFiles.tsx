import { useRef, type ReactNode } from 'react';
import { INCOMING_FILES } from '@rammer/core/io/assets/limits';
import type { ChosenFile } from '../../tools/comingMeshes';

interface Props {
  /** of the field behind the button */
  label: string;
  title: string;
  disabled?: boolean;
  /** a folder with all in it */
  folder?: boolean;
  children: ReactNode;
  onChosen(files: ChosenFile[]): void;
}

/** A button that opens a file chooser for meshes and what belongs to them. */
export function MeshFiles({ label, title, disabled, folder, children, onChosen }: Props) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <button className="act" style={{ minHeight: 24, padding: '1px 7px' }} disabled={disabled} title={title} onClick={() => file.current?.click()}>
        {children}
      </button>
      <input
        ref={file}
        type="file"
        multiple
        {...(folder ? { webkitdirectory: '' } : { accept: INCOMING_FILES })}
        className="hidden"
        aria-label={label}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])].map((f) => ({ path: f.webkitRelativePath || f.name, file: f }));
          e.target.value = '';
          if (files.length > 0) onChosen(files);
        }}
      />
    </>
  );
}
