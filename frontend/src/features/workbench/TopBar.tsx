import { Button, Popover, Tooltip } from 'antd';
import { Link } from 'react-router';
import { api } from '../../api/client';
import mark from '../../app/mark.svg';
import { goBack, make, useBench } from './bench';
import { Rename } from './Rename';

export function TopBar() {
  const { id, document, revision, undo, redo, saving } = useBench();
  const name = document!.name;
  return (
    <header className="top">
      <Link className="brand" to="/">
        <img src={mark} alt="" /> Keen Ripple
      </Link>
      <span className="crumb">
        <Link className="crumb" to="/">
          Quay Nine
        </Link>
        {' / '}
        <Rename
          value={name}
          label="Name of the piece"
          commit={(value) => make({ label: `Rename piece to ${value}`, patch: [{ op: 'replace', path: '/name', value }] })}
        />
      </span>
      <span className="spring" />
      <span className="quiet saved" role="status">
        {saving ? 'saving…' : 'saved'} · revision {revision}
      </span>
      <Tooltip title={undo ? `Undo: ${undo} (Ctrl Z)` : 'Nothing to undo'}>
        <Button disabled={!undo} onClick={() => void goBack('undo')}>
          Undo
        </Button>
      </Tooltip>
      <Tooltip title={redo ? `Redo: ${redo} (Ctrl Shift Z)` : 'Nothing to redo'}>
        <Button disabled={!redo} onClick={() => void goBack('redo')}>
          Redo
        </Button>
      </Tooltip>
      <Popover
        trigger="click"
        placement="bottomRight"
        content={
          <div className="handoff">
            <strong>Web page</strong>
            <p>One HTML file without script: CSS keyframes, springs as linear(), fonts inside, and a calmer version for people who ask for less motion.</p>
            <Button type="primary" href={api.handoffAddress(id, 'html')} download={`${id}.html`}>
              Download {id}.html
            </Button>
          </div>
        }
      >
        <Button type="primary">Hand off</Button>
      </Popover>
    </header>
  );
}
