import { Checkbox, Popover } from 'antd';
import { useSyncExternalStore } from 'react';
import { Choice } from '../../../shared/ui/Choice';
import { TextField } from '../../../shared/ui/Field';
import { clock, useBench } from '../bench';
import type { Zoom } from '../stage/useZoom';
import { labelOf } from '../tree';
import { GROUNDS, LOOKS, useWatch, watch } from './watch';
import './watch.css';
import { known } from '../../../shared/known';

const SIZES = [1, 2, 4, 8, 16];

/** All that can be changed in how the loop is looked at. */
export function WatchPanel({ zoom }: { zoom: Zoom }) {
  return (
    <Popover trigger="click" placement="rightTop" destroyOnHidden content={<Ways zoom={zoom} />}>
      <button className="watch-button">watch…</button>
    </Popover>
  );
}

function Ways({ zoom }: { zoom: Zoom }) {
  const { ground, pixels, follows } = useWatch();
  const look = useSyncExternalStore(clock.onSwitch, () => clock.look);
  const piece = useBench((b) => b.document);
  const layer = useBench((b) => b.layer);
  const free = !Object.values(GROUNDS).includes(ground);
  return (
    <div className="watch" role="group" aria-label="How it is watched">
      <Choice
        block
        size="small"
        aria-label="Plays"
        value={look}
        options={[...LOOKS]}
        onChange={(value) => clock.setLook(value)}
      />
      <div className="watch-sizes rates" role="group" aria-label="Size of the loop">
        <button aria-pressed={zoom.fits} onClick={zoom.toFit}>
          fit
        </button>
        {SIZES.map((size) => (
          <button key={size} aria-pressed={!zoom.fits && zoom.zoom === size} onClick={() => zoom.to(size)}>
            {size}:1
          </button>
        ))}
      </div>
      <div className="watch-grounds" role="group" aria-label="Background">
        {Object.entries(GROUNDS).map(([name, css]) => (
          <button
            key={name}
            title={name}
            aria-label={name}
            aria-pressed={ground === css}
            style={{ background: css }}
            onClick={() => watch({ ground: css })}
          />
        ))}
        <TextField label="or" name="Background of the stages" value={free ? ground : ''} commit={setFree} />
      </div>
      <Checkbox checked={pixels} onChange={(event) => watch({ pixels: event.target.checked })}>
        as pixels
      </Checkbox>
      <Checkbox checked={follows} onChange={(event) => watch({ follows: event.target.checked })}>
        {layer ? `${labelOf(piece, layer)} stays in the middle` : 'the chosen layer stays in the middle'}
      </Checkbox>
    </div>
  );
}

async function setFree(colour: string): Promise<void> {
  if (colour && !CSS.supports('color', colour))
    throw new Error(`${colour} is no CSS colour. Write a name such as teal, or #1f7a70.`);
  watch({ ground: colour || known(GROUNDS['sea-glass']) });
}
