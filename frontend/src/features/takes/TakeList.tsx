import { Flex } from 'antd';
import type { Take } from '../../api/contract';
import { PlainButton } from '../../shared/ui/PlainButton';
import { NameField } from '../workbench';
import { useState } from 'react';

interface Props {
  takes: readonly Take[];
  shown: readonly Take[];
  show: (number: number) => void;
  putAway: (number: number) => void;
  drop: (take: Take) => void;
  rename: (number: number, name: string) => Promise<void>;
}

/** All takes: shown or put away, renamed, deleted. */
export function TakeList({ takes, rename, ...rest }: Props) {
  const [renaming, setRenaming] = useState<number | null>(null);
  if (!takes.length) return null;
  return (
    <Flex wrap gap="4px 18px" component="ul" className="bare-list" aria-label="All takes">
      {takes.map((take) => (
        <li key={take.number}>
          {renaming === take.number ? (
            <NameField
              value={take.name}
              label="New name of the take"
              commit={(name) => rename(take.number, name)}
              close={() => setRenaming(null)}
            />
          ) : (
            <OneTake take={take} {...rest} rename={() => setRenaming(take.number)} />
          )}
        </li>
      ))}
    </Flex>
  );
}

type OneProps = Omit<Props, 'takes' | 'rename'> & { take: Take; rename: () => void };

function OneTake({ take, shown, show, putAway, drop, rename }: OneProps) {
  const isShown = shown.includes(take);
  return (
    <>
      <strong>{take.name}</strong>
      {take.fault && (
        <span style={{ margin: '0 6px', color: 'var(--coral-text)' }}>does not fit any more: {take.fault}</span>
      )}
      {!take.fault && take.lost > 0 && (
        <span className="quiet">
          {' '}
          without {take.lost === 1 ? 'the transition' : `${take.lost} transitions`} of a deleted state
        </span>
      )}
      {!take.fault && (
        <PlainButton onClick={() => (isShown ? putAway(take.number) : show(take.number))}>
          {isShown ? 'put away' : 'show'}
        </PlainButton>
      )}
      <PlainButton aria-label={`Rename take ${take.name}`} onClick={rename}>
        rename
      </PlainButton>
      <PlainButton aria-label={`Delete take ${take.name}`} onClick={() => drop(take)}>
        delete
      </PlainButton>
    </>
  );
}
