import { useState } from 'react';
import { stillBlockout } from '@rammer/core/kit/swap';
import { isMade } from '@rammer/core/level/instance';
import type { Standing } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { usePointer } from '../../store/pointer';
import { useBlockDraft } from '../../store/blockDraft';
import { SNAPS, useUi } from '../../store/ui';
import { selectedBlocks } from '../../tools/blockActions';
import { things } from '../../tools/things';
import { NumberField } from '../../ui/NumberField';
import { Arrange } from '../standing/Arrange';
import { BlockFields } from './BlockFields';
import { BlockTools } from './BlockTools';
import { Cast } from './Cast';
import { Motion } from './Motion';
import { NextBlock } from './NextBlock';
import { StandingTable } from '../standing/StandingTable';
import { ThingFields } from '../standing/ThingFields';

const PANELS = ['numbers', 'arrange', 'motion', 'cast'] as const;
type Panel = (typeof PANELS)[number];
const LISTED = ['block', 'copy'] as const;
const isStill = (t: Standing): boolean => t.kind === 'block' && stillBlockout([t]).length > 0;

/** Block: tools, the grid and the work plane, what is selected or set next, and every block by its group. */
export function BlockBench({ session }: { session: Session }) {
  useSession(session);
  const ui = useUi();
  const draft = useBlockDraft();
  const selected = selectedBlocks(session);
  const list = things(session);
  const other = list.length > 0 && (selected.length < list.length || list.some((t) => isMade(t.id)));
  const [panel, setPanel] = useState<Panel>('numbers');
  const kinds = new Set(selected.map((b) => b.shape)).size;
  return (
    <>
      <BlockTools />
      {/* One height whatever is selected: the rows below must not move under a double click. */}
      <div className="grid h-[270px] shrink-0 grid-cols-[minmax(0,1fr)] content-start gap-1.5 px-3 py-2">
        <div className="flex items-center justify-between gap-2">
          <span className="label" id="snap">
            grid
          </span>
          <div className="seg" role="group" aria-labelledby="snap">
            {SNAPS.map((s) => (
              <button
                key={s}
                className="act fig"
                style={{ padding: '1px 5px', minHeight: 24 }}
                aria-pressed={ui.snap === s}
                onClick={() => useUi.setState({ snap: s })}
              >
                {s === 0 ? 'off' : s}
              </button>
            ))}
          </div>
          <button
            className="act"
            style={{ padding: '1px 5px', minHeight: 24 }}
            aria-pressed={ui.workPlane !== undefined}
            title="set blocks on a level plane at this height"
            onClick={() =>
              useUi.setState({
                workPlane: ui.workPlane === undefined ? Math.round((usePointer.getState().hover?.point[1] ?? selected[0]?.at[1] ?? 0) * 100) / 100 : undefined,
              })
            }
          >
            plane
          </button>
          {ui.workPlane !== undefined && (
            <NumberField
              label="height of the work plane"
              hideLabel
              className="w-[52px]"
              fill
              value={ui.workPlane}
              onCommit={(v) => useUi.setState({ workPlane: v })}
            />
          )}
        </div>
        {other ? (
          <ThingFields session={session} list={list} />
        ) : selected.length === 0 ? (
          <NextBlock />
        ) : (
          <>
            <div className="flex items-center justify-between gap-2">
              <b className="min-w-0 flex-1 truncate font-medium">
                {selected.length === 1 ? selected[0].name : `${selected.length} selected, ${kinds} kind${kinds > 1 ? 's' : ''}`}
              </b>
              <div className="seg" role="group" aria-label="of the selection">
                {PANELS.map((p) => (
                  <button key={p} className="act fig" style={{ padding: '1px 4px', minHeight: 24 }} aria-pressed={panel === p} onClick={() => setPanel(p)}>
                    {p}
                  </button>
                ))}
              </div>
            </div>
            {panel === 'arrange' ? (
              <Arrange session={session} list={list} />
            ) : panel === 'motion' ? (
              <Motion session={session} blocks={selected} />
            ) : panel === 'cast' ? (
              <Cast key={selected.map((b) => b.id).join()} session={session} blocks={selected} />
            ) : (
              <BlockFields session={session} blocks={selected} />
            )}
          </>
        )}
      </div>
      <StandingTable
        session={session}
        label="blocks"
        kinds={LISTED}
        keep={draft.stillOnly ? isStill : undefined}
        empty={
          draft.stillOnly
            ? 'Nothing is blockout any more: an asset stands for every solid.'
            : 'No blocks yet. Pick box, then drag a footprint on the ground and move up for the height.'
        }
        header={
          <button
            className="act"
            style={{ padding: '0 5px', minHeight: 22 }}
            aria-pressed={draft.stillOnly}
            title="list what no asset stands for yet"
            onClick={() => useBlockDraft.setState({ stillOnly: !draft.stillOnly })}
          >
            blockout
          </button>
        }
      />
    </>
  );
}
