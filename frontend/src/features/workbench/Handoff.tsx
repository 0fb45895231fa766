import { Button, Popover } from 'antd';
import { WebPage } from './WebPage';

/** What leaves for others. */
export function Handoff() {
  return (
    <Popover trigger="click" placement="bottomRight" destroyOnHidden content={<WebPage />}>
      <Button type="primary">Hand off</Button>
    </Popover>
  );
}
