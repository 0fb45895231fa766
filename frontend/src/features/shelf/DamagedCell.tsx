import { useMutation, useQuery } from '@tanstack/react-query';
import { Button, Popover } from 'antd';
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
    <article className="shelf-cell damaged" data-shelf={entry.id}>
      <div className="shelf-stage">
        <p role="alert">
          This piece cannot be opened. {fault}
          {refused && <> {refused.message}</>}
        </p>
      </div>
      <footer>
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
      </footer>
    </article>
  );
}

function History({ row }: { row: number }) {
  const [open, setOpen] = useState(false);
  const { data } = useQuery({ queryKey: ['damaged', row], queryFn: () => api.historyOfDamaged(row), enabled: open });
  const lines = (
    <ol className="damaged-history">
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
