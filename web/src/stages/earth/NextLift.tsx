import { useEarth } from '../../store/earthDraft';
import { useUi } from '../../store/ui';
import { NumberField } from '../../ui/NumberField';

const HOW = {
  landform: 'Click the corners of its foot, the first again to close; or drag from its middle for a round one.',
  route: 'Click along the ground; the last point again, or Enter, ends it. It cuts and fills to hold its grade.',
  pad: 'Click the corners, the first again to close. It lies at the mean height of the ground there.',
} as const;

/** What the next landform, route or pad is like, and how it is drawn. */
export function NextLift({ kind }: { kind: keyof typeof HOW }) {
  const ui = useUi();
  const earth = useEarth();
  const landform = (patch: Partial<typeof earth.landform>) => useEarth.setState({ landform: { ...earth.landform, ...patch } });
  const route = (patch: Partial<typeof earth.route>) => useEarth.setState({ route: { ...earth.route, ...patch } });
  const pad = (patch: Partial<typeof earth.pad>) => useEarth.setState({ pad: { ...earth.pad, ...patch } });
  return (
    <section aria-label={`the next ${kind}`}>
      {kind === 'route' && (
        <div className="flex items-center gap-2 px-3 pt-2">
          <div className="seg" role="group" aria-label="how the route comes about">
            <button className="act fig" style={{ padding: '0 8px', minHeight: 24 }} aria-pressed={ui.tool === 'route'} onClick={() => ui.setTool('route')}>
              draw
            </button>
            <button className="act fig" style={{ padding: '0 8px', minHeight: 24 }} aria-pressed={ui.tool === 'propose'} onClick={() => ui.setTool('propose')}>
              propose
            </button>
          </div>
          {ui.tool === 'propose' && (
            <NumberField
              label="seed"
              value={earth.proposalSeed}
              min={0}
              max={2_147_483_647}
              step={1}
              digits={0}
              onCommit={(v) => useEarth.setState({ proposalSeed: Math.round(v) })}
            />
          )}
        </div>
      )}
      <p className="label m-0 px-3 pt-2">
        {ui.tool === 'propose' ? 'Click where it begins and where it ends: a way is looked for that keeps the grade. Another seed, another way.' : HOW[kind]}
      </p>
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 py-2">
        {kind === 'landform' && (
          <>
            <NumberField
              label={earth.landform.cut ? 'depth' : 'crest'}
              value={earth.landform.height}
              unit="m"
              min={0}
              max={500}
              step={0.25}
              onCommit={(height) => landform({ height })}
            />
            <NumberField label="foot" value={earth.landform.foot} unit="m" min={0.05} max={2000} step={0.25} onCommit={(foot) => landform({ foot })} />
            <NumberField label="ragged" value={earth.landform.ragged} unit="m" min={0} max={100} step={0.25} onCommit={(ragged) => landform({ ragged })} />
            <div className="seg justify-self-end" role="group" aria-label="heap or cut">
              {[false, true].map((cut) => (
                <button
                  key={String(cut)}
                  className="act fig"
                  style={{ padding: '0 6px', minHeight: 24 }}
                  aria-pressed={earth.landform.cut === cut}
                  onClick={() => landform({ cut })}
                >
                  {cut ? 'cut' : 'heap'}
                </button>
              ))}
            </div>
          </>
        )}
        {kind === 'route' && (
          <>
            <NumberField label="width" value={earth.route.width} unit="m" min={0.3} max={60} step={0.25} onCommit={(width) => route({ width })} />
            <NumberField label="shoulder" value={earth.route.shoulder} unit="m" min={0} max={30} step={0.25} onCommit={(shoulder) => route({ shoulder })} />
            <NumberField label="grade" value={earth.route.grade} unit="%" min={0} max={100} step={1} digits={1} onCommit={(grade) => route({ grade })} />
            <NumberField label="batter" value={earth.route.batter} unit="°" min={5} max={85} step={5} digits={0} onCommit={(batter) => route({ batter })} />
          </>
        )}
        {kind === 'pad' && (
          <>
            <NumberField label="margin" value={earth.pad.margin} unit="m" min={0} max={100} step={0.25} onCommit={(margin) => pad({ margin })} />
            <NumberField label="batter" value={earth.pad.batter} unit="°" min={5} max={85} step={5} digits={0} onCommit={(batter) => pad({ batter })} />
          </>
        )}
      </div>
    </section>
  );
}
