import { DEVICES, BUDGET_SHARE, savesWithout, termOf } from '@rammer/core/cost/frame';
import { settingsOf } from '@rammer/core/level/level';
import type { Pose } from '@rammer/core/level/objects';
import { placeCosts } from '@rammer/core/cost/places';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useSpending, type WallUnit } from '../../store/spending';
import { OutSign } from '../../ui/OutSign';
import { Row, Table } from '../../ui/Table';
import type { LevelView } from '../../view/LevelView';
import { FOLLOW_FRAMES, useDrawnFrame } from '../../view/useFrame';
import { spendOf, totalOf } from '../../wall/spend';
import { show } from '../../wall/Wall';

const UNITS: WallUnit[] = ['frame', 'triangles', 'draws', 'memory'];

/** Courses that are passes of the target device over what the others draw: they are not taken out by themselves. */
const PASS: Readonly<Record<string, string | undefined>> = {
  shadows: 'the shadow pass of the target device',
  haze: 'a pass over the whole screen: the lighting has haze, see Light',
};

/** Who spends what, with a switch to leave each out; the places it was measured from, the dearest first. */
export function CostBench({ session, view, onPose }: { session: Session; view?: LevelView; onPose(pose: Pose): void }) {
  useSession(session);
  return view ? <Spenders session={session} view={view} onPose={onPose} /> : <p className="label m-0 px-3 py-2">The level is being opened.</p>;
}

function Spenders({ session, view, onPose }: { session: Session; view: LevelView; onPose(pose: Pose): void }) {
  useDrawnFrame(view, FOLLOW_FRAMES);
  const { costScope: scope, without, before } = useSpending();
  const device = DEVICES[settingsOf(session.level).device];
  const { spacing } = session.terrain.grid;
  const spend = spendOf(scope, view, session.level, device, spacing);
  const { sums, frame } = spend;
  const remember = (label: string) =>
    useSpending.setState({ before: { label, tops: Object.fromEntries(UNITS.map((u) => [u, totalOf(u, spend)])) as Record<WallUnit, number> } });
  const rows = [
    ...[...sums.bySpender.entries()].map(([key, s]) => ({
      key,
      course: s.course,
      name: s.of === s.course ? s.course : s.of,
      value: termOf(device, s.sum, frame.governs),
      saves: savesWithout(device, sums.all, s.sum),
      out: false,
    })),
    ...[...without].map((key) => ({ key, course: key.split('/')[0], name: key.split('/').pop()!, value: 0, saves: 0, out: true })),
  ].sort((a, b) => Number(a.out) - Number(b.out) || b.value - a.value);
  const places = placeCosts(session.level, view.costs(), spacing);
  const budget = device.target * BUDGET_SHARE;
  const toggle = (key: string, out: boolean) => {
    const next = new Set(without);
    if (out) next.add(key);
    else next.delete(key);
    if (out && !before) remember(`with ${key}`);
    useSpending.setState({ without: next });
  };
  return (
    <>
      <div className="grid gap-2 px-3 py-2.5">
        <p className="m-0">
          <b className="fig text-[17px]" style={{ color: frame.frame > budget ? 'var(--oxide)' : undefined }}>
            {frame.frame.toFixed(1)} ms
          </b>{' '}
          of {budget.toFixed(1)} on {device.name}, {scope}. {frame.governs}-bound: {frame.cpu.toFixed(1)} ms CPU, {frame.gpu.toFixed(1)} ms GPU.{' '}
          <span className="label">
            An estimate by{' '}
            <a href="/docs/numbers.md" target="_blank" rel="noreferrer" className="underline">
              published coefficients
            </a>
            .
          </span>
        </p>
        <div className="flex gap-2">
          <button className="act" onClick={() => remember('before')}>
            remember as before
          </button>
          <button className="act" disabled={!before} onClick={() => useSpending.setState({ before: undefined })}>
            forget it
          </button>
        </div>
        {before && (
          <p className="label m-0">
            Before: {before.tops.frame.toFixed(1)} ms, {show(before.tops.triangles, 'triangles')} triangles, {before.tops.draws} draws. The dashed outline on
            the wall is that.
          </p>
        )}
      </div>
      <div style={{ height: '46%' }} className="flex min-h-0 flex-col">
        <Table
          label="spenders"
          rows={rows}
          empty="Nothing is drawn here."
          header={
            <>
              <span className="label">spender</span>
              <span className="label ml-auto">adds, saves ms</span>
            </>
          }
          row={(r) => (
            <Row
              onClick={() => {
                if (!PASS[r.course]) toggle(r.key, !r.out);
              }}
              colour={r.out ? 'var(--edge)' : undefined}
              title={PASS[r.course] ?? (r.out ? 'put back' : 'take out of the picture and the count')}
            >
              <span className="truncate">{r.name}</span>
              {r.course !== r.name && <span className="label">{r.course}</span>}
              <span className="fig ml-auto">{r.out ? 'out' : r.value.toFixed(2)}</span>
              <span className="fig w-10 text-right">{r.out ? '' : r.saves.toFixed(2)}</span>
              {!PASS[r.course] ? (
                <button
                  className="icon-btn"
                  aria-label={r.out ? `put ${r.name} back` : `take ${r.name} out`}
                  aria-pressed={r.out}
                  onClick={(e) => {
                    e.stopPropagation();
                    toggle(r.key, !r.out);
                  }}
                >
                  <OutSign out={r.out} />
                </button>
              ) : (
                <span className="w-6" />
              )}
            </Row>
          )}
        />
      </div>
      <Table
        label="places"
        rows={places}
        empty="No places yet: save a viewpoint or set the entry."
        header={
          <>
            <span className="label">measured from, dearest first</span>
            <span className="label ml-auto">ms</span>
          </>
        }
        row={(p) => (
          <Row onClick={() => onPose(p.pose)} title="click to look from there">
            <span className="truncate">{p.name}</span>
            <span className="fig ml-auto" style={{ color: p.frame.frame > budget ? 'var(--oxide)' : undefined }}>
              {p.frame.frame > budget ? '▲ ' : ''}
              {p.frame.frame.toFixed(1)}
            </span>
          </Row>
        )}
      />
    </>
  );
}
