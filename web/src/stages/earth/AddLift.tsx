import { useState } from 'react';
import type { Lift } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import type { HeightFile } from '../../tools/heightFile';
import { addLift } from '../../tools/lifts';
import { HeightFileButton } from './HeightFileButton';
import { StratumPattern } from './StratumPattern';
import { SurveyDialog } from './SurveyDialog';

const WEATHER = { lift: 'weather', seed: 1, droplets: 60_000, strength: 1, radius: 1.5, talus: 36, rounds: 40 } as const;

/** Lifts that are drawn on the ground, by what is said of each. */
const DRAWN = { landform: 'a heap or a cut by its foot', route: 'a way that keeps its grade', pad: 'level ground under an outline' } as const;

const cell = 'flex h-6 items-center gap-1 px-1 fig text-left';

/** The head of the column: what is laid on top of it next, by kind. */
export function AddLift({ session }: { session: Session }) {
  const tool = useUi((s) => s.tool);
  const { setTool } = useUi.getState();
  const [heights, setHeights] = useState<HeightFile>();
  const noise = () => addLift(session, { lift: 'noise', seed: crypto.getRandomValues(new Uint32Array(1))[0] % 100_000, height: 1, scale: 30, octaves: 4 });
  const add = (made: boolean) => {
    if (made) setTool('select');
  };
  const mark = (kind: Lift['lift']) => <StratumPattern mute kind={kind} className="h-4 w-4 shrink-0 border" />;
  return (
    <div
      className="grid shrink-0 grid-cols-[auto_auto_auto_auto] justify-start gap-x-2 border-b px-2 pb-1"
      style={{ borderColor: 'var(--ink)' }}
      role="toolbar"
      aria-label="add a lift"
    >
      {(Object.keys(DRAWN) as (keyof typeof DRAWN)[]).map((kind) => {
        const active = tool === kind || (kind === 'route' && tool === 'propose');
        return (
          <button
            key={kind}
            className={cell}
            style={active ? { background: 'var(--ink)', color: 'var(--raised)' } : undefined}
            aria-pressed={active}
            title={`draw ${DRAWN[kind]}`}
            onClick={() => setTool(active ? 'select' : kind)}
          >
            {mark(kind)}
            {kind}
          </button>
        );
      })}
      <button className={cell} title="another noise lift" onClick={() => add(noise())}>
        {mark('noise')}noise
      </button>
      <button className={cell} title="rain and sliding over what lies below" onClick={() => add(addLift(session, WEATHER))}>
        {mark('weather')}weather
      </button>
      <button className={cell} title="another hand lift, to sculpt apart" onClick={() => addLift(session, { lift: 'hand' })}>
        {mark('hand')}hand
      </button>
      <span className="flex items-center gap-1 pl-1">
        {mark('survey')}
        <HeightFileButton
          label="survey"
          of="file of heights"
          title="heights from a picture (PNG of 8 or 16 bits, RAW of 16, GeoTIFF) or a mesh of ground (OBJ, GLB)"
          className="fig"
          style={{ padding: 0, minHeight: 22, border: 0, background: 'none' }}
          onFile={setHeights}
        />
      </span>
      {heights && <SurveyDialog session={session} file={heights} onDone={() => setHeights(undefined)} />}
    </div>
  );
}
