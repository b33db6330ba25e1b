import { useState } from 'react';
import { PRINTS, type PrintName } from '@rammer/core/earth/prints';
import { isRaw } from '@rammer/core/io/heightFile';
import { useEarth } from '../../store/earthDraft';
import type { HeightFile } from '../../tools/heightFile';
import { NumberField } from '../../ui/NumberField';
import { HeightFileButton } from './HeightFileButton';

/** What is printed, how tall it comes out, and how it is turned. */
export function PrintFields() {
  const brush = useEarth((s) => s.brush);
  const print = useEarth((s) => s.print);
  const own = useEarth((s) => s.ownPrint);
  const { setBrush } = useEarth.getState();
  const [fault, setFault] = useState<string>();
  const take = ({ name, read }: HeightFile) => {
    if (read?.ok) useEarth.setState({ ownPrint: { name, picture: read.value }, print: 'own' });
    setFault(isRaw(name) ? `${name} does not say how many pixels it has: save it as PNG` : read?.ok ? undefined : read?.message);
  };
  return (
    <>
      <NumberField label="height" value={brush.tall} unit="m" min={-200} max={200} step={0.25} onCommit={(tall) => setBrush({ tall })} />
      <NumberField
        label="turn"
        value={brush.turn}
        unit="°"
        min={-360}
        max={360}
        step={15}
        digits={0}
        onCommit={(turn) => setBrush({ turn: ((turn % 360) + 360) % 360 })}
      />
      <div className="col-span-2 flex items-center gap-2">
        <label className="flex min-w-0 flex-1 items-center gap-2">
          <span className="label">print</span>
          <select
            className="textf h-6 min-w-0 flex-1 px-1"
            aria-label="what is printed"
            value={print}
            onChange={(e) => useEarth.setState({ print: e.target.value as PrintName | 'own' })}
          >
            {PRINTS.map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
            {own && <option value="own">{own.name}</option>}
          </select>
        </label>
        <HeightFileButton
          label="from a file"
          of="file of a print"
          title="a picture of heights, black to white, or a mesh"
          style={{ padding: '1px 7px', minHeight: 24 }}
          onStart={() => setFault(undefined)}
          onFile={take}
        />
      </div>
      {fault && (
        <p role="alert" className="label col-span-2 m-0" style={{ color: 'var(--oxide)' }}>
          {fault}
        </p>
      )}
    </>
  );
}
