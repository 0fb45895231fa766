import { Popover } from 'antd';
import { Chip } from '../../../shared/ui/Chip';
import type { Zoom } from '../stage/useZoom';
import { Ways } from './Ways';

/** Opens what can be changed in how the loop is looked at. */
export function WatchPanel({ zoom }: { zoom: Zoom }) {
  return (
    <Popover trigger="click" placement="rightTop" destroyOnHidden content={<Ways zoom={zoom} />}>
      <Chip style={{ position: 'absolute', top: 10, right: 12, height: 28 }}>watch…</Chip>
    </Popover>
  );
}
