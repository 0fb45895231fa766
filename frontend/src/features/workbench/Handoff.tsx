import { Button, Popover } from 'antd';
import { later } from '../../shared/ui/later';

const WebPages = later(async () => (await import('./WebPage')).WebPages, <div style={{ width: 290, height: 360 }} />);

/** What leaves for others. */
export function Handoff() {
  return (
    <Popover trigger="click" placement="bottomRight" destroyOnHidden content={<WebPages />}>
      <Button type="primary">Hand off</Button>
    </Popover>
  );
}
