import { useMutation, useQuery } from '@tanstack/react-query';
import { Button, Flex, Popover } from 'antd';
import { useState } from 'react';
import type { ShelfEntry } from '../../api/contract';
import { api } from '../../api/client';

interface Props {
  entry: ShelfEntry;
  fault: string;
  onChanged: () => void;
}

/** A piece that cannot be opened: what is wrong with it, and what is left to do. */
export function DamagedCell({ entry, fault, onChanged }: Props) {
  const undo = useMutation({ mutationFn: () => api.undo(entry.id, entry.revision), onSuccess: onChanged });
  const remove = useMutation({ mutationFn: () => api.removeDamaged(entry.row), onSuccess: onChanged });
  const refused = undo.error ?? remove.error;
  return (
    <Flex vertical component="article" className="shelf-cell" data-shelf={entry.id}>
      <div className="shelf-stage">
        <p role="alert">
          This piece cannot be opened. {fault}
          {refused && <> {refused.message}</>}
        </p>
      </div>
      <Flex component="footer" align="center" gap={6}>
        <div className="shelf-name">
          <strong>{entry.name}</strong>
        </div>
        {entry.fault === null && (
          <Button size="small" onClick={() => undo.mutate()}>
            Undo its last edit
          </Button>
        )}
        <History row={entry.row} />
        <Button size="small" href={api.storedAddress(entry.row)} download>
          Download
        </Button>
        <Button size="small" onClick={() => remove.mutate()}>
          Delete
        </Button>
      </Flex>
    </Flex>
  );
}

function History({ row }: { row: number }) {
  const [open, setOpen] = useState(false);
  const { data } = useQuery({ queryKey: ['damaged', row], queryFn: () => api.historyOfDamaged(row), enabled: open });
  const lines = (
    <ol style={{ maxHeight: 260, margin: 0, overflow: 'auto' }}>
      {data?.history.map(({ revision, label }) => (
        <li key={revision} value={revision}>
          {label}
        </li>
      ))}
      {data && !data.history.length && <li value={1}>Nothing has been changed since it was made.</li>}
    </ol>
  );
  return (
    <Popover trigger="click" content={lines} title="History" onOpenChange={setOpen}>
      <Button size="small">History</Button>
    </Popover>
  );
}
