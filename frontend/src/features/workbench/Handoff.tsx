import { Button, Popover } from 'antd';
import { WebPages } from './WebPage';

/** What leaves for others. */
export function Handoff() {
  return (
    <Popover trigger="click" placement="bottomRight" destroyOnHidden content={<WebPages />}>
      <Button type="primary">Hand off</Button>
    </Popover>
  );
}
