import { Button, Flex, Tooltip } from 'antd';
import { useDeferredValue } from 'react';
import { Link, useLocation } from 'wouter';
import { Brand } from '../../shared/ui/Brand';
import { goBack, make, useBench } from './bench';
import { useWaiting } from './queue';
import { Rename } from './Rename';
import { look } from './view';

const VIEWS = [
  ['', 'Workbench'],
  ['/run-sheet', 'Run sheet'],
  ['/rehearse', 'Rehearse'],
  ['/takes', 'Takes'],
  ['/hand-off', 'Hand off'],
] as const;

export function TopBar() {
  const id = useBench((b) => b.id);
  const name = useBench((b) => b.document.name);
  return (
    <Flex component="header" className="top" align="center" gap={12}>
      <Brand />
      <span className="crumb">
        <Link className="crumb" href="/">
          Quay Nine
        </Link>
        {' / '}
        <Rename
          value={name}
          label="Name of the piece"
          commit={(value) =>
            make({ label: `Rename piece to ${value}`, patch: [{ op: 'replace', path: '/name', value }] })
          }
        />
      </span>
      <Flex component="nav" className="views" gap={4} aria-label="Views">
        {VIEWS.map(([path, label]) => (
          <View key={path} address={`/pieces/${id}${path}`} label={label} />
        ))}
      </Flex>
      <span className="spring" />
      <Saved />
      <Tooltip title="Keys and gestures">
        <Button aria-label="Keys and gestures" onClick={() => look({ help: true })}>
          ?
        </Button>
      </Tooltip>
      <Back direction="undo" label="Undo" keys="Ctrl Z" />
      <Back direction="redo" label="Redo" keys="Ctrl Shift Z" />
    </Flex>
  );
}

function View({ address, label }: { address: string; label: string }) {
  const [open] = useLocation();
  return (
    <Link href={address} aria-current={open === address ? 'page' : undefined}>
      {label}
    </Link>
  );
}

function Saved() {
  const { count, long, why, away, newer } = useWaiting();
  const revision = useBench((b) => b.revision);
  if (why) {
    return (
      <span
        className="saved waiting ellipsis"
        role="status"
        title={`${why} What you do is kept here and stored as soon as it can be.`}
      >
        not saved · {count === 1 ? '1 change waits' : `${count} changes wait`}: {why}
      </span>
    );
  }
  if (away) {
    return (
      <span
        className="saved waiting ellipsis"
        role="status"
        title="What you do is kept here and stored as soon as it answers."
      >
        the server does not answer · revision {revision}
      </span>
    );
  }
  return (
    <span className="quiet saved" role="status">
      {newer && 'changed in another window · '}
      {count && long ? 'saving…' : 'saved'} · revision {revision}
    </span>
  );
}

function Back({ direction, label, keys }: { direction: 'undo' | 'redo'; label: string; keys: string }) {
  // The loop comes first, then what is said about it; so in the other panels.
  const edit = useDeferredValue(useBench((b) => b[direction]));
  return (
    <Tooltip title={edit ? `${label}: ${edit} (${keys})` : `Nothing to ${direction}`}>
      <Button disabled={!edit} onClick={() => void goBack(direction)}>
        {label}
      </Button>
    </Tooltip>
  );
}
