import type { BrushKind } from '@rammer/core/earth/brush';
import { useUi } from '../../store/ui';
import { Profile } from '../../ui/Profile';

type BrushTool = BrushKind | 'earth-ramp';

/** What each brush does to the ground, as a section: before and after. */
const SECTIONS: Record<BrushTool, { name: string; before: string; after: string }> = {
  raise: { name: 'raise', before: 'M0 19H118', after: 'M0 19H34C46 19 48 5 59 5S72 19 84 19H118' },
  lower: { name: 'lower', before: 'M0 10H118', after: 'M0 10H34C46 10 48 21 59 21S72 10 84 10H118' },
  level: { name: 'level to', before: 'M0 18C20 18 28 6 46 8S80 21 92 14S110 12 118 12', after: 'M0 18C8 18 20 13 34 13H86L118 12' },
  smooth: { name: 'smooth', before: 'M0 16L14 9L24 19L36 8L48 19L60 8L72 18L84 9L98 17L118 11', after: 'M0 16C20 13 30 14 48 13S90 14 118 12' },
  sharpen: { name: 'sharpen', before: 'M0 16C20 13 30 14 48 13S90 14 118 12', after: 'M0 17C24 17 36 14 46 17L59 3L72 17C84 14 96 16 118 16' },
  noise: { name: 'noise', before: 'M0 15H118', after: 'M0 15L30 15L37 10L42 16L48 8L54 14L60 7L66 16L73 10L80 16L88 15H118' },
  terrace: { name: 'terrace', before: 'M0 21L118 3', after: 'M0 21H36L39 15H54L57 10H73L76 5H118' },
  weather: { name: 'weather', before: 'M0 20H36V4H82V20H118', after: 'M0 20H20L40 12L48 6C52 4 66 4 70 6L78 12L98 20H118' },
  print: { name: 'print', before: 'M0 19H118', after: 'M0 19H26L32 11L38 13L44 5H58L62 9H72L76 4L84 12L90 19H118' },
  'earth-ramp': { name: 'ramp', before: 'M0 20H46C52 20 50 6 60 6H118', after: 'M0 20H32L86 6H118' },
  erase: { name: 'erase', before: 'M0 19H34C46 19 48 5 59 5S72 19 84 19H118', after: 'M0 19H36C44 19 47 16 52 16S58 19 64 19H118' },
};

/** The brushes a hand lift is sculpted with. */
export function BrushTools() {
  const tool = useUi((s) => s.tool);
  const { setTool } = useUi.getState();
  return (
    <div className="grid grid-cols-2 border-t" style={{ borderColor: 'var(--hair)' }} role="group" aria-label="brushes">
      {(Object.keys(SECTIONS) as BrushTool[]).map((id) => (
        <Profile key={id} {...SECTIONS[id]} active={tool === id} onPick={() => setTool(id)} />
      ))}
    </div>
  );
}
