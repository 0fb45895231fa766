import { Button, Flex, Popover } from 'antd';
import { useState } from 'react';
import { api } from '../../api/client';
import { NumberField } from '../../shared/ui/Field';
import { useBench } from '../workbench';

const FRESH = 12;

/** Moments of the run on one sheet, to be looked at and taken away. */
export function Filmstrip() {
  const id = useBench((b) => b.id);
  const revision = useBench((b) => b.revision);
  const [frames, setFrames] = useState(FRESH);
  const address = api.filmstripAddress(id, frames, revision);
  const set = async (wanted: number) => {
    if (!(wanted >= 2 && wanted <= 120)) throw new Error('A filmstrip has 2 to 120 frames.');
    setFrames(Math.round(wanted));
  };
  return (
    <Popover
      trigger="click"
      placement="topRight"
      destroyOnHidden
      content={
        <Flex vertical gap={8} className="filmstrip" style={{ width: 560 }}>
          <NumberField label="frames" name="Frames of the filmstrip" value={frames} commit={set} />
          <img style={{ maxHeight: 420, objectFit: 'contain' }} src={address} alt={`Filmstrip of ${frames} frames`} />
          <Button type="primary" href={address} download={`${id}-filmstrip.png`}>
            Download the sheet
          </Button>
        </Flex>
      }
    >
      <Button>Filmstrip…</Button>
    </Popover>
  );
}
