import { Checkbox, Flex } from 'antd';
import { useSyncExternalStore } from 'react';
import { Swatches } from '../../../shared/ui/Swatches';
import { Chip } from '../../../shared/ui/Chip';
import { Choice } from '../../../shared/ui/Choice';
import { TextField } from '../../../shared/ui/Field';
import { clock, useBench } from '../bench';
import type { Zoom } from '../stage/useZoom';
import { labelOf } from '../tree';
import { GROUNDS, LOOKS, useWatch, watch } from './watch';
import { known } from '../../../shared/known';

const SIZES = [1, 2, 4, 8, 16];

/** All that can be changed in how the loop is looked at. */
export function Ways({ zoom }: { zoom: Zoom }) {
  const { ground, pixels, follows } = useWatch();
  const look = useSyncExternalStore(clock.onSwitch, () => clock.look);
  const piece = useBench((b) => b.document);
  const layer = useBench((b) => b.layer);
  const free = !Object.values(GROUNDS).includes(ground);
  return (
    <Flex vertical gap={10} style={{ width: 268 }} role="group" aria-label="How it is watched">
      <Choice
        block
        size="small"
        aria-label="Plays"
        value={look}
        options={[...LOOKS]}
        onChange={(value) => clock.setLook(value)}
      />
      <Flex gap={4} role="group" aria-label="Size of the loop">
        <Chip block pressed={zoom.fits} onClick={zoom.toFit}>
          fit
        </Chip>
        {SIZES.map((size) => (
          <Chip key={size} block pressed={!zoom.fits && zoom.zoom === size} onClick={() => zoom.to(size)}>
            {size}:1
          </Chip>
        ))}
      </Flex>
      <Flex align="center" gap={5} role="group" aria-label="Background">
        <Swatches
          size={21}
          colours={Object.entries(GROUNDS)}
          chosen={ground}
          choose={(css) => watch({ ground: css })}
        />
        <TextField label="or" name="Background of the stages" value={free ? ground : ''} commit={setFree} />
      </Flex>
      <Checkbox checked={pixels} onChange={(event) => watch({ pixels: event.target.checked })}>
        as pixels
      </Checkbox>
      <Checkbox checked={follows} onChange={(event) => watch({ follows: event.target.checked })}>
        {layer ? `${labelOf(piece, layer)} stays in the middle` : 'the chosen layer stays in the middle'}
      </Checkbox>
    </Flex>
  );
}

async function setFree(colour: string): Promise<void> {
  if (colour && !CSS.supports('color', colour))
    throw new Error(`${colour} is no CSS colour. Write a name such as teal, or #1f7a70.`);
  watch({ ground: colour || known(GROUNDS['sea-glass']) });
}
