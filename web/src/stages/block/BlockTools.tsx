import { SHAPES, type Shape } from '@rammer/core/level/objects';
import { nextOp, setNextOp, useBlockDraft } from '../../store/blockDraft';
import { useUi, type HandleMode } from '../../store/ui';
import { useHint, useKeyLabel } from '../../store/keys';
import { Profile } from '../../ui/Profile';

const GROUND = 'M0 19H118';

/** What each shape leaves, as a section. */
const SECTIONS: Record<Shape, string> = {
  box: 'M0 19H36V5H82V19H118',
  ramp: 'M0 19H30L88 6V19H118',
  wedge: 'M0 19H32L59 5L86 19H118',
  terraces: 'M0 19H30L33 13H46L49 8H62L65 4H88V19H118',
  stair: 'M0 19H34V15.5H46V12H58V8.5H70V5H84V19H118',
  cylinder: 'M0 19H42V6Q59 1 76 6V19H118',
  cone: 'M0 19H38L59 4L80 19H118',
  arch: 'M0 19H34V4H84V19H74V16Q74 9 59 9Q44 9 44 16V19H118',
  ring: 'M0 19H34V9H44V19H74V9H84V19H118',
  wall: 'M0 19H54V3H64V19H118',
  slab: 'M0 19H30V14H88V19H118',
  tunnel: 'M0 19H24Q30 3 59 3Q88 3 94 19H72V16Q72 9 59 9Q46 9 46 16V19H24',
};
const KEYS: Partial<Record<Shape, string>> = { box: 'KeyR', ramp: 'KeyP', stair: 'KeyI', wall: 'KeyK', slab: 'KeyG', tunnel: 'KeyF' };

/** The shapes that can be set, whether the next one adds or cuts, what is measured, and the handles of what is selected. */
export function BlockTools() {
  const ui = useUi();
  const draft = useBlockDraft();
  const label = useKeyLabel();
  const hint = useHint();
  return (
    <>
      <div className="grid grid-cols-4 border-b" style={{ borderColor: 'var(--ink)' }}>
        {SHAPES.map((shape) => (
          <Profile
            narrow
            key={shape}
            name={shape}
            shortcut={KEYS[shape] && label(KEYS[shape])}
            before={GROUND}
            after={SECTIONS[shape]}
            active={ui.tool === shape}
            onPick={() => ui.setTool(shape)}
          />
        ))}
      </div>
      <div className="flex items-center justify-between border-b px-1 py-0.5" style={{ borderColor: 'var(--hair)' }}>
        <div className="seg" role="group" aria-label="the next block">
          {(['solid', 'void'] as const).map((op) => (
            <button
              key={op}
              className="act fig"
              style={{ padding: '1px 3px' }}
              aria-pressed={nextOp(ui.tool, draft) === op}
              title={hint(`the next block ${op === 'void' ? 'cuts' : 'adds'}`, 'KeyO')}
              onClick={() => setNextOp(op)}
            >
              {op}
            </button>
          ))}
        </div>
        <div className="seg" role="group" aria-label="measure, people">
          <button
            className="act fig"
            style={{ padding: '1px 3px' }}
            aria-pressed={ui.tool === 'measure'}
            title={hint('measure between two points', 'KeyU')}
            onClick={() => ui.setTool('measure')}
          >
            measure
          </button>
          <button
            className="act fig"
            style={{ padding: '1px 3px' }}
            aria-pressed={ui.tool === 'people'}
            title="a row of figures: standing, crouched, reaching up, at a jump's apex"
            onClick={() => ui.setTool('people')}
          >
            people
          </button>
        </div>
        <div className="seg" role="group" aria-label="select, and handles">
          {(['move', 'turn', 'size'] as HandleMode[]).map((m) => (
            <button
              key={m}
              className="act fig"
              style={{ padding: '1px 3px' }}
              aria-pressed={ui.tool === 'select' && ui.handle === m}
              title={label({ move: 'KeyM', turn: 'KeyT', size: 'KeyY' }[m])}
              onClick={() => useUi.setState({ handle: m, tool: 'select' })}
            >
              {m}
            </button>
          ))}
        </div>
      </div>
    </>
  );
}
