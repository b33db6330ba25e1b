import { STAGES, useUi } from '../store/ui';

/** The graduated strip of stages, drawn like a surveyor's levelling staff. @param row along the foot of a small screen */
export function Staff({ row = false }: { row?: boolean }) {
  const stage = useUi((s) => s.stage);
  if (row) {
    return (
      <nav aria-label="stages" className="flex h-11 shrink-0 overflow-x-auto border-t" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>
        {STAGES.map((s) => (
          <button key={s.id} aria-current={s.id === stage ? 'step' : undefined} onClick={() => useUi.getState().setStage(s.id)} className="min-w-[68px] flex-1 border-r px-2 text-left" style={{ borderColor: 'var(--hair)', background: s.id === stage ? 'var(--ink)' : undefined, color: s.id === stage ? 'var(--raised)' : undefined }}>
            <span className="fig mr-1 text-[12px]">{s.number}</span>{s.name}
          </button>
        ))}
      </nav>
    );
  }
  return (
    <nav aria-label="stages" className="flex h-full w-16 shrink-0 flex-col border-r" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>
      {STAGES.map((s) => {
        const on = s.id === stage;
        return (
          <button key={s.id} aria-current={on ? 'step' : undefined} onClick={() => useUi.getState().setStage(s.id)} title={`${s.name} (${s.number % 10})`}
            className="relative min-h-0 flex-1 border-b pl-[14px] pt-2 text-left align-top" style={{ borderColor: 'var(--hair)', background: on ? 'var(--ink)' : undefined, color: on ? 'var(--raised)' : undefined, maxHeight: 122 }}>
            <svg className="absolute inset-y-0 left-0 h-full w-[10px]" preserveAspectRatio="none" viewBox="0 0 10 100" aria-hidden>
              <path d="M0 0H10M0 20H5M0 40H5M0 50H8M0 60H5M0 80H5" stroke={on ? 'var(--raised)' : 'var(--edge)'} strokeWidth="1" vectorEffect="non-scaling-stroke" />
            </svg>
            <span className="fig block text-[12px] leading-4" style={{ color: on ? 'var(--hair)' : 'var(--ink-2)' }}>{s.number}</span>
            <span className="block text-[13px] font-medium leading-4">{s.name}</span>
          </button>
        );
      })}
      <div className="flex-1" />
    </nav>
  );
}
