import { Button, Flex, Popover, type InputRef } from 'antd';
import { useRef, useState, type RefObject } from 'react';
import { Chip } from '../../shared/ui/Chip';
import { Input } from '../../shared/ui/Input';
import { PlainButton } from '../../shared/ui/PlainButton';
import { known } from '../../shared/known';
import { SCREENS, type Screen } from './screens';

interface Props {
  create: (name: string, screen: Screen) => void;
  take: (file: File) => void;
}

/** A piece from nothing: a part of a screen, or a whole one on which others are tried. */
export function NewPiece({ create, take }: Props) {
  const file = useRef<HTMLInputElement>(null);
  // Once the panel is there: before, nothing in it takes the focus.
  const field = useRef<InputRef>(null);
  const [name, setName] = useState('');
  const [screen, setScreen] = useState<Screen>('a part of a screen');
  const form = (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) create(name.trim(), screen);
      }}
    >
      <Flex gap={8} style={{ width: 290 }}>
        <Input
          ref={field}
          placeholder="What is it called?"
          aria-label="Name"
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="primary" htmlType="submit" disabled={!name.trim()}>
          Make it
        </Button>
      </Flex>
      <MadeFor screen={screen} choose={setScreen} />
      <p className="quiet" style={{ margin: '8px 0 0' }}>
        or <PlainButton onClick={() => known(file.current).click()}>read one from a file…</PlainButton>
      </p>
      <FileField field={file} take={take} />
    </form>
  );
  return (
    <Popover
      trigger="click"
      placement="bottomRight"
      content={form}
      destroyOnHidden
      afterOpenChange={(open) => open && field.current?.focus()}
    >
      <Button type="primary">New piece</Button>
    </Popover>
  );
}

function MadeFor({ screen, choose }: { screen: Screen; choose: (screen: Screen) => void }) {
  const { width, height } = SCREENS[screen];
  return (
    <Flex wrap align="center" gap={4} role="group" aria-label="Made for" style={{ width: 290, marginTop: 8 }}>
      {(Object.keys(SCREENS) as Screen[]).map((name) => (
        <Chip key={name} pressed={name === screen} onClick={() => choose(name)}>
          {name}
        </Chip>
      ))}
      <span className="quiet num">
        {width} × {height} px
      </span>
    </Flex>
  );
}

function FileField({ field, take }: { field: RefObject<HTMLInputElement | null>; take: Props['take'] }) {
  return (
    <input
      ref={field}
      type="file"
      hidden
      accept=".json,application/json"
      aria-label="Piece file"
      onChange={({ target }) => {
        const chosen = target.files?.[0];
        // The same file may be chosen again.
        target.value = '';
        if (chosen) take(chosen);
      }}
    />
  );
}
