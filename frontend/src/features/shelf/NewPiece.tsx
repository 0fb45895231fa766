import { Button, Popover } from 'antd';
import { later } from '../../shared/ui/later';
import type { Props } from './NewPieceForm';

const Form = later(async () => (await import('./NewPieceForm')).NewPieceForm);

/** A piece from nothing, from a starter of ours, from another piece, or from a file. */
export const NewPiece = (props: Props) => (
  <Popover
    trigger="click"
    placement="bottomRight"
    content={<Form {...props} />}
    destroyOnHidden
    afterOpenChange={(isOpen) => isOpen && document.querySelector<HTMLElement>('#new-piece input')?.focus()}
  >
    <Button type="primary">New piece</Button>
  </Popover>
);
