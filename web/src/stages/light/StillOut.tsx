import { useRef, useState } from 'react';
import { settingsOf } from '@rammer/core/level/level';
import { STILL, usePicture } from '../../store/picture';
import type { Session } from '../../store/session';
import { NumberField } from '../../ui/NumberField';
import type { LevelView } from '../../view/LevelView';

/** A picture of this view at a chosen size, as PNG, made of many frames of the full picture. */
export function StillOut({ session, view }: { session: Session; view?: LevelView }) {
  const [size, setSize] = useState<[number, number]>([1920, 1080]);
  const [calm, setCalm] = useState(false);
  const drawn = usePicture((s) => s.still);
  const stop = useRef(false);
  const save = async () => {
    if (!view) return;
    const began = performance.now();
    stop.current = false;
    usePicture.setState({ still: 0 });
    try {
      const blob = await view.still(
        { width: size[0], height: size[1], calm },
        (still) => usePicture.setState({ still }),
        () => stop.current,
      );
      if (!blob) {
        session.say('still ended, nothing saved');
        return;
      }
      const link = document.createElement('a');
      link.href = URL.createObjectURL(blob);
      link.download = `${settingsOf(session.level)
        .name.toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')}-${size[0]}x${size[1]}.png`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 5000);
      session.say(`still saved, ${size[0]} x ${size[1]}, ${STILL} frames in ${((performance.now() - began) / 1000).toFixed(0)} s`);
    } catch (e) {
      session.say(`the picture could not be made: ${e instanceof Error ? e.message : String(e)}. Try a smaller one.`, true);
    } finally {
      usePicture.setState({ still: undefined });
    }
  };
  return (
    <div className="flex flex-wrap items-center gap-2 border-t px-3 py-2" style={{ borderColor: 'var(--ink)' }}>
      <NumberField
        label="still"
        className="flex items-center gap-1"
        value={size[0]}
        min={64}
        max={4096}
        step={64}
        digits={0}
        onCommit={(w) => setSize([Math.round(w), size[1]])}
      />
      <NumberField
        label="x"
        className="flex items-center gap-1"
        value={size[1]}
        min={64}
        max={4096}
        step={64}
        digits={0}
        onCommit={(h) => setSize([size[0], Math.round(h)])}
      />
      <label className="flex items-center gap-1" title="plants stand as they grew, whatever wind the lighting has">
        <input type="checkbox" checked={calm} onChange={(e) => setCalm(e.target.checked)} />
        no wind
      </label>
      {drawn === undefined ? (
        <button className="act ml-auto" disabled={!view} onClick={() => void save()}>
          save PNG
        </button>
      ) : (
        <button className="act ml-auto" data-testid="end-still" onClick={() => (stop.current = true)}>
          cancel
        </button>
      )}
    </div>
  );
}
