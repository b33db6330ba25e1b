import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { directionOf } from '@rammer/core/cost/camera';
import { fitCamera, type FitInput, type PictureLine } from '@rammer/core/cost/cameraFit';
import { blockToLevel } from '@rammer/core/block/solid';
import { heightAt } from '@rammer/core/earth/sample';
import type { Pose, Reference } from '@rammer/core/level/objects';
import { add, distance, scale, type Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { newId } from '../../store/names';
import { mm, things } from '../../tools/things';
import { NumberField } from '../../ui/NumberField';
import { usePicture } from '../../view/ReferencePictures';

const KINDS = ['upright', 'first', 'second', 'known'] as const;
type Kind = (typeof KINDS)[number];
const WORDS: Record<Kind, { name: string; dash?: string; what: string }> = {
  upright: { name: 'upright', dash: '2 4', what: 'edges that stand upright; two or more make it surer' },
  first: { name: 'first level', what: 'level edges that run one way, at least two; draw the first of them the way its heading says' },
  second: { name: 'second level', dash: '10 5', what: 'level edges at a right angle to those, at least two' },
  known: { name: 'known length', dash: '14 4 2 4', what: 'one edge of known length, drawn from the point of the level given below' },
};
type Drawn = Pick<FitInput, 'upright' | 'first' | 'second' | 'heading'> & {
  known?: FitInput['known']['line'];
  along: FitInput['known']['along'];
  metres: number;
  at: Vec3;
};

/** Finds the camera of a picture from lines drawn on it, and keeps it as a viewpoint with its lens. */
export function FitDialog({ session, reference, onDone }: { session: Session; reference: Reference; onDone(pose?: Pose): void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const url = usePicture(session, reference);
  const [kind, setKind] = useState<Kind>('first');
  const [lines, setLines] = useState<Drawn>(() => {
    const { fit } = reference;
    const { grid } = session.terrain;
    const chosen = things(session)[0];
    const middle: Vec3 = [grid.width / 2, heightAt(session.terrain, grid.width / 2, grid.depth / 2), grid.depth / 2];
    const at = chosen?.kind === 'block' ? blockToLevel(chosen, -chosen.size[0] / 2, 0, chosen.size[2] / 2) : middle;
    return {
      upright: fit?.upright ?? [],
      first: fit?.first ?? [],
      second: fit?.second ?? [],
      heading: fit?.heading ?? 0,
      known: fit?.known?.line,
      along: fit?.known?.along ?? 'upright',
      metres: fit?.known?.metres ?? 3,
      at: (fit?.known?.at ?? at).map(mm) as Vec3,
    };
  });
  const [draft, setDraft] = useState<PictureLine>();
  useEffect(() => {
    if (!dialog.current?.open) dialog.current?.showModal();
  }, []);
  const [w, h] = reference.size;
  const put = (line: PictureLine) => setLines(kind === 'known' ? { ...lines, known: line } : { ...lines, [kind]: [...lines[kind], line] });
  const input: FitInput | undefined = lines.known && {
    ...lines,
    width: w,
    height: h,
    known: { line: lines.known, along: lines.along, metres: lines.metres, at: lines.at },
  };
  const fitted = input ? fitCamera(input) : undefined;
  const camera = fitted?.ok ? fitted.camera : undefined;
  const count = (k: Kind) => (k === 'known' ? (lines.known ? 1 : 0) : lines[k].length);

  const keep = () => {
    if (!camera || !input) return;
    // The view turns about the point of known place, or 10 m ahead where that is behind something.
    const reach = Math.max(1, distance(camera.eye, lines.at));
    const pose: Pose = {
      view: 'orbit',
      target: add(camera.eye, scale(directionOf(camera.yaw, camera.pitch), reach)).map(mm) as Vec3,
      yaw: camera.yaw,
      pitch: camera.pitch,
      distance: reach,
      fov: camera.fov,
    };
    const id = newId('view');
    const { known: _, along: _a, metres: _m, at: _at, ...drawn } = lines;
    const done = session.commit(
      {
        kind: 'together',
        parts: [
          { kind: 'add', objects: [{ id, version: 1, kind: 'viewpoint', name: `${reference.name}, fitted`.slice(0, 110), pose }] },
          { kind: 'set', patches: [{ id: reference.id, set: { viewpoint: id, roll: camera.roll, mode: 'overlay', fit: { ...drawn, known: input.known } } }] },
        ],
      },
      `fit the camera of ${reference.name}`,
    );
    if (done) onDone(pose);
  };

  const shape = (k: Kind, [x0, y0, x1, y1]: PictureLine, key: React.Key) => (
    <g key={key}>
      <path d={`M${x0} ${y0}L${x1} ${y1}`} stroke="#f6f7f4" strokeWidth={5} vectorEffect="non-scaling-stroke" />
      <path d={`M${x0} ${y0}L${x1} ${y1}`} stroke="#17211f" strokeWidth={2} strokeDasharray={WORDS[k].dash} vectorEffect="non-scaling-stroke" />
      <circle cx={x0} cy={y0} r={w / 220} fill="#f6f7f4" stroke="#17211f" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
    </g>
  );
  return (
    <dialog
      ref={dialog}
      className="m-auto max-h-none max-w-none border p-0"
      style={{ background: 'var(--raised)', color: 'var(--ink)', borderColor: 'var(--ink)', width: 'min(96vw, 1200px)', height: 'min(94vh, 760px)' }}
      aria-label={`camera of ${reference.name}`}
      onClose={() => onDone()}
      onKeyDown={(e) => e.stopPropagation()}
    >
      <div className="flex h-full">
        <div className="grid min-w-0 flex-1 place-items-center overflow-hidden p-3" style={{ background: 'var(--plot)' }}>
          <svg
            viewBox={`0 0 ${w} ${h}`}
            className="max-h-full max-w-full touch-none"
            style={{ cursor: 'crosshair', width: '100%', height: '100%' }}
            data-testid="fit-picture"
            preserveAspectRatio="xMidYMid meet"
            onPointerDown={(e) => {
              if (e.button !== 0) return;
              const [x, y] = pictured(e, w, h);
              e.currentTarget.setPointerCapture(e.pointerId);
              setDraft([x, y, x, y]);
            }}
            onPointerMove={(e) => {
              if (draft) {
                const [x, y] = pictured(e, w, h);
                setDraft([draft[0], draft[1], x, y]);
              }
            }}
            onPointerUp={() => {
              if (draft && Math.hypot(draft[2] - draft[0], draft[3] - draft[1]) >= 4) put(draft);
              setDraft(undefined);
            }}
          >
            {url && <image href={url} width={w} height={h} />}
            {KINDS.flatMap((k) => (k === 'known' ? (lines.known ? [shape(k, lines.known, k)] : []) : lines[k].map((l, i) => shape(k, l, `${k}${i}`))))}
            {draft && shape(kind, draft, 'draft')}
          </svg>
        </div>
        <div className="flex w-[272px] shrink-0 flex-col gap-2 overflow-y-auto border-l p-3" style={{ borderColor: 'var(--ink)' }}>
          <h2 className="fig m-0 text-[19px] font-semibold">Camera of {reference.name}</h2>
          <div role="group" aria-label="what is drawn" className="grid gap-1">
            {KINDS.map((k) => (
              <div key={k} className="flex items-center gap-1.5">
                <button className="act flex-1" aria-pressed={kind === k} onClick={() => setKind(k)}>
                  <svg width="30" height="6" aria-hidden>
                    <path d="M0 3H30" stroke="currentColor" strokeWidth="2" strokeDasharray={WORDS[k].dash} />
                  </svg>
                  {WORDS[k].name}
                  <span className="fig ml-auto">{count(k)}</span>
                </button>
                <button
                  className="act"
                  style={{ padding: '3px 7px' }}
                  disabled={count(k) === 0}
                  aria-label={`take the last ${WORDS[k].name} line back`}
                  onClick={() => setLines(k === 'known' ? { ...lines, known: undefined } : { ...lines, [k]: lines[k].slice(0, -1) })}
                >
                  back
                </button>
              </div>
            ))}
          </div>
          <p className="label m-0">{WORDS[kind].what}.</p>
          <NumberField
            label="heading of the first"
            value={lines.heading}
            unit="°"
            min={-360}
            max={360}
            step={15}
            onCommit={(heading) => setLines({ ...lines, heading })}
          />
          <NumberField label="known length" value={lines.metres} unit="m" min={0.01} max={10000} onCommit={(metres) => setLines({ ...lines, metres })} />
          <label className="flex items-center justify-between gap-2">
            <span className="label">it runs</span>
            <select className="textf h-6 px-1" value={lines.along} onChange={(e) => setLines({ ...lines, along: e.target.value as Drawn['along'] })}>
              <option value="upright">upright</option>
              <option value="first">along the first</option>
              <option value="second">along the second</option>
            </select>
          </label>
          <div className="grid grid-cols-3 gap-1.5">
            {(['x', 'y', 'z'] as const).map((n, k) => (
              <NumberField
                key={n}
                label={`from ${n}`}
                className="grid min-w-0 gap-0.5"
                fill
                value={lines.at[k]}
                digits={3}
                onCommit={(v) => setLines({ ...lines, at: lines.at.map((c, i) => (i === k ? v : c)) as Vec3 })}
              />
            ))}
          </div>
          <p className="m-0" role="status" data-testid="fitted" style={{ color: fitted && !fitted.ok ? 'var(--oxide)' : undefined }}>
            {camera ? (
              <span className="fig">
                lens {camera.fov.toFixed(1)}° upright, heading {camera.yaw.toFixed(1)}°, pitch {camera.pitch.toFixed(1)}°, lean {camera.roll.toFixed(1)}°;
                {' eye at '}
                {camera.eye.map((v) => v.toFixed(2)).join(', ')}; lines off by {camera.error.toFixed(1)} px
              </span>
            ) : fitted && !fitted.ok ? (
              fitted.message
            ) : (
              'Draw two lines or more along each level direction, and one edge of known length.'
            )}
          </p>
          <div className="mt-auto flex gap-2">
            <button className="act main" disabled={!camera || !session.writable} onClick={keep}>
              keep as a viewpoint
            </button>
            <button className="act" onClick={() => onDone()}>
              close
            </button>
          </div>
        </div>
      </div>
    </dialog>
  );
}

/** The pixel of the picture under the pointer: it is drawn as large as fits, in the middle. */
function pictured(e: PointerEvent<SVGSVGElement>, w: number, h: number): [number, number] {
  const box = e.currentTarget.getBoundingClientRect();
  const k = Math.min(box.width / w, box.height / h);
  return [(e.clientX - box.left - (box.width - w * k) / 2) / k, (e.clientY - box.top - (box.height - h * k) / 2) / k];
}
