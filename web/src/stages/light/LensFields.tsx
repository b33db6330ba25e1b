import type { Pose } from '@rammer/core/level/objects';
import { NumberField } from '../../ui/NumberField';
import type { LevelView } from '../../view/LevelView';
import { FOLLOW_FRAMES, useDrawnFrame } from '../../view/useFrame';

/** The lens of the view, kept with a viewpoint that is saved: what is not in focus is blurred at rest and in stills. */
export function LensFields({ view, onPose }: { view: LevelView; onPose(pose: Pose): void }) {
  useDrawnFrame(view, FOLLOW_FRAMES);
  const { pose } = view;
  if (pose.view === 'plan') return null;
  const { width, focus } = pose.lens ?? { width: 0, focus: 10 };
  const put = (lens: NonNullable<Pose['lens']>) => onPose({ ...view.pose, lens: lens.width > 0 ? lens : undefined });
  return (
    <div className="grid grid-cols-2 gap-x-3 border-t px-3 py-1.5" style={{ borderColor: 'var(--hair)' }} title="a wide lens blurs what is not in focus">
      <NumberField label="lens" value={width} unit="mm" min={0} max={500} step={5} digits={0} onCommit={(v) => put({ width: v, focus })} />
      <NumberField
        label="in focus"
        value={focus}
        unit="m"
        min={0.1}
        max={10_000}
        step={1}
        digits={1}
        onCommit={(v) => put({ width: width > 0 ? width : 40, focus: v })}
      />
    </div>
  );
}
