/**
 * The sign of *taken out of the level*: a box on the ground line while it is in, the same box dashed and lifted
 * off it while it is out.
 */
export function OutSign({ out }: { out: boolean }) {
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" fill="none" stroke="currentColor" aria-hidden>
      <path d="M0.5 12.5H13.5" strokeWidth="1.4" />
      {out ? (
        <path d="M3.5 1.5H10.5V7.5H3.5Z" strokeDasharray="2 1.5" strokeWidth="1.2" />
      ) : (
        <path d="M3.5 5.5H10.5V12.5H3.5Z" fill="currentColor" fillOpacity="0.25" strokeWidth="1.2" />
      )}
    </svg>
  );
}
