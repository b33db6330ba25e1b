import { useEffect, useState } from 'react';
import type { Surface } from '@rammer/core/level/objects';
import { rgb } from '@rammer/core/level/lighting';
import { weave, weaveKey, weaveOf, type Weave } from '@rammer/core/surface/textures';
import type { Session } from '../../store/session';
import { pictureLayer } from '../../workers/pictureLayer';

const SIDE = 64;
const made = new Map<string, string>();
const NONE = 'data:image/gif;base64,R0lGODlhAQABAAAAACH5BAEKAAEALAAAAAABAAEAAAICTAEAOw==';

function drawn(of: Weave, tint: string, picture?: Uint8Array): string {
  const data = weave(of, SIDE, picture);
  const [r, g, b] = rgb(tint);
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = SIDE;
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(SIDE, SIDE);
  // A little lighter than the ground lies in the sun, so that small swatches can be told apart.
  for (let i = 0; i < data.length; i += 4) image.data.set([data[i] * r * 1.25, data[i + 1] * g * 1.25, data[i + 2] * b * 1.25, 255], i);
  context.putImageData(image, 0, 0);
  return canvas.toDataURL('image/png');
}

/** A small picture of what a surface looks like with its tint, as a data URL; drawn once. A picture of one's own is there a moment later. */
export function useSwatch(session: Session, surface: Surface | undefined): string {
  const [, again] = useState(0);
  const of = surface && weaveOf(surface, session.level);
  const tint = surface?.tint ?? '#ffffff';
  const key = of ? `${weaveKey(of)}${tint}` : '';
  useEffect(() => {
    if (!of?.picture || made.has(key)) return;
    let gone = false;
    void pictureLayer(of.picture, SIDE).then(
      (picture) => {
        made.set(key, drawn(of, tint, picture));
        if (!gone) again((n) => n + 1);
      },
      () => {},
    );
    return () => {
      gone = true;
    };
    // Its key says all that the swatch is made of.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  if (!of) return NONE;
  if (!of.picture && !made.has(key)) made.set(key, drawn(of, tint));
  return made.get(key) ?? NONE;
}

/** A surface in a row of a table. */
export function Swatch({ session, surface }: { session: Session; surface: Surface | undefined }) {
  return (
    <img
      src={useSwatch(session, surface)}
      width={30}
      height={16}
      alt=""
      style={{ height: 16, width: 30, objectFit: 'cover', border: '1px solid var(--ink)' }}
    />
  );
}
