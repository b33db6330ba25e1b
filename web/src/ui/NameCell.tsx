import { useState, type ReactNode } from 'react';

/** A name in a row; a double click or F2 types another. */
export function NameCell({ name, children, onRename }: { name: string; children?: ReactNode; onRename(name: string): void }) {
  const [typing, setTyping] = useState(false);
  if (!typing) {
    return (
      <span
        className="min-w-0 flex-1 truncate"
        title="double-click to rename"
        onDoubleClick={(e) => {
          e.stopPropagation();
          setTyping(true);
        }}
      >
        {children ?? name}
      </span>
    );
  }
  return (
    <input
      className="textf h-[22px] min-w-0 flex-1"
      defaultValue={name}
      autoFocus
      aria-label={`new name of ${name}`}
      maxLength={120}
      onFocus={(e) => e.currentTarget.select()}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Escape') e.currentTarget.value = name;
        if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
      }}
      onBlur={(e) => {
        setTyping(false);
        const wanted = e.target.value.trim();
        if (wanted && wanted !== name) onRename(wanted);
      }}
    />
  );
}
