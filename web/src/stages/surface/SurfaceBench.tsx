import { groundRulesOf } from '@rammer/core/level/level';
import { groundDefaults, surfacesOf } from '@rammer/core/surface/surfaces';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useGround } from '../../store/groundDraft';
import { useUi } from '../../store/ui';
import { fillGround } from '../../tools/fillTool';
import { GroundBrushFields } from './GroundBrushFields';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import { WhyParts } from '../../ui/WhyParts';
import { RuleFields } from './RuleFields';
import { RuleTable } from './RuleTable';
import { SurfaceFields } from './SurfaceFields';
import { SurfaceTable } from './SurfaceTable';

const SMOOTH = 'M0 15H118';
const ROUGH = 'M0 15H30L34 12L38 16L44 11L50 16L56 12L62 16L68 11L74 15L78 12L84 15H118';

/** Surfaces, the rules that say where they lie, and the brushes that paint over them. */
export function SurfaceBench({ session }: { session: Session }) {
  useSession(session);
  const { tool } = useUi();
  const { surface: paintId, replaced, fill, surfaceTab, groundRule, whyGround } = useGround();
  const { setTool } = useUi.getState();
  const { surfaces, own } = surfacesOf(session.level);
  const surface = surfaces.find((s) => s.id === paintId) ?? surfaces[0];
  const rules = groundRulesOf(session.level);
  const rule = rules.find((r) => r.id === groundRule);
  const brush = tool === 'paint' || tool === 'unpaint' || tool === 'smudge' || tool === 'replace';
  return (
    <>
      <div className="grid grid-cols-2 border-b" style={{ borderColor: 'var(--ink)' }}>
        <Profile name="paint" before="M0 15C30 15 40 15 59 15H118" after={ROUGH} active={tool === 'paint'} onPick={() => setTool('paint')} />
        <Profile name="erase to rules" before={ROUGH} after={SMOOTH} active={tool === 'unpaint'} onPick={() => setTool('unpaint')} />
        <Profile
          name="smudge"
          before={SMOOTH}
          after="M0 15H24L30 13L38 15L48 12L60 15L74 14L90 15H118"
          active={tool === 'smudge'}
          onPick={() => setTool('smudge')}
        />
        <Profile
          name="replace"
          before="M0 15H20L26 11L32 15L38 11L44 15H118"
          after="M0 15H74L80 11L86 15L92 11L98 15H118"
          active={tool === 'replace'}
          onPick={() => setTool('replace')}
        />
        <Profile
          name="fill outline"
          before={SMOOTH}
          after="M0 15H16V12L22 15L28 12L34 15L40 12L46 15L52 12L58 15L64 12L70 15L76 12L82 15L88 12L94 15L100 12V15H118"
          active={tool === 'fill'}
          onPick={() => setTool('fill')}
        />
        <Profile name="why this ground" before="M59 3V21" after="M0 15H54L59 8L64 15H118" active={tool === 'ask-ground'} onPick={() => setTool('ask-ground')} />
      </div>
      <div className="min-h-0 shrink overflow-y-auto" style={{ maxHeight: '56%' }}>
        {brush && (
          <GroundBrushFields session={session}>
            {tool === 'replace' && (
              <label className="flex items-center justify-between gap-2">
                <span className="label">goes</span>
                <select
                  className="textf h-6 min-w-0 px-1"
                  aria-label="goes"
                  value={replaced ?? ''}
                  onChange={(e) => useGround.setState({ replaced: e.target.value })}
                >
                  <option value="" disabled>
                    pick one
                  </option>
                  {surfaces.map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.name}
                    </option>
                  ))}
                </select>
              </label>
            )}
          </GroundBrushFields>
        )}
        {tool === 'fill' && (
          <div className="grid gap-1 px-3 py-2">
            <div className="grid grid-cols-2 gap-x-3">
              <NumberField
                label="edge"
                value={fill.soft}
                unit="m"
                min={0}
                max={100}
                step={0.5}
                onCommit={(soft) => useGround.setState({ fill: { ...fill, soft } })}
              />
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={fill.slope !== undefined}
                  onChange={(e) => useGround.setState({ fill: { ...fill, slope: e.target.checked ? [30, 90] : undefined } })}
                />
                by slope only
              </label>
              {fill.slope && (
                <NumberField
                  label="slope from"
                  value={fill.slope[0]}
                  unit="°"
                  min={0}
                  max={fill.slope[1]}
                  step={1}
                  digits={1}
                  onCommit={(v) => useGround.setState({ fill: { ...fill, slope: [v, fill.slope![1]] } })}
                />
              )}
              {fill.slope && (
                <NumberField
                  label="slope to"
                  value={fill.slope[1]}
                  unit="°"
                  min={fill.slope[0]}
                  max={90}
                  step={1}
                  digits={1}
                  onCommit={(v) => useGround.setState({ fill: { ...fill, slope: [fill.slope![0], v] } })}
                />
              )}
            </div>
            <div className="flex items-center justify-between">
              <span className="label">click corners in the view, or</span>
              <button className="act" style={{ minHeight: 24, padding: '0 8px' }} disabled={!own} onClick={() => fillGround(session)}>
                fill the level with {surface.name}
              </button>
            </div>
          </div>
        )}
        {tool === 'ask-ground' &&
          (whyGround ? (
            <div className="border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }} data-testid="why-ground">
              <p className="m-0 pb-1 font-medium">{whyGround.verdict}</p>
              <WhyParts parts={whyGround.parts} />
            </div>
          ) : (
            <p className="label m-0 px-3 py-2">Click a spot: every rule, route and stroke of paint there is told, with the values it goes by.</p>
          ))}
        {!own && (
          <p className="m-0 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
            This level is from before surfaces: it shows turf and slate by slope.{' '}
            <button className="act" disabled={!session.writable} onClick={() => session.commit({ kind: 'add', objects: groundDefaults() }, 'add surfaces')}>
              add the four surfaces
            </button>
          </p>
        )}
        {own && surfaceTab === 'surfaces' && tool !== 'ask-ground' && <SurfaceFields session={session} surface={surface} />}
        {own && surfaceTab === 'rules' && rule && <RuleFields session={session} rule={rule} surfaces={surfaces} />}
      </div>
      {own && (
        <div className="flex items-center gap-1 border-t px-3 py-1" style={{ borderColor: 'var(--hair)' }} role="group" aria-label="what the table lists">
          {(['surfaces', 'rules'] as const).map((t) => (
            <button
              key={t}
              className="act"
              style={{ minHeight: 22, padding: '0 8px' }}
              aria-pressed={surfaceTab === t}
              onClick={() => useGround.setState({ surfaceTab: t })}
            >
              {t} <span className="fig">{t === 'surfaces' ? surfaces.length : rules.length}</span>
            </button>
          ))}
        </div>
      )}
      {own && surfaceTab === 'rules' ? (
        <RuleTable session={session} surfaces={surfaces} chosen={rule} />
      ) : (
        <SurfaceTable session={session} surfaces={surfaces} surface={surface} own={own} />
      )}
    </>
  );
}
