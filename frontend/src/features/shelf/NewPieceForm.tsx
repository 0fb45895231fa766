import { Button, Flex, Select, type InputRef } from 'antd';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { ShelfEntry } from '../../api/contract';
import { Chip } from '../../shared/ui/Chip';
import { NumberField } from '../../shared/ui/Field';
import { Input } from '../../shared/ui/Input';
import { PlainButton } from '../../shared/ui/PlainButton';
import { known } from '../../shared/known';
import { SCREENS, STARTERS, type Size, type Starter } from './screens';

/** How a piece begins: with nothing on it, as a starter, or as another piece. */
export type Beginning =
  { name: string; size: Size } | { name: string; starter: Starter } | { name: string; copyOf: string };

export interface Props {
  pieces: readonly ShelfEntry[];
  create: (wish: Beginning) => void;
  /** Chooses files. */
  open: () => void;
}

const EMPTY = 'empty';
const COPY = 'a copy of…';
const OWN = 'own size';
const WIDE = { width: 330 };

/** What it is called, and how it begins. */
export function NewPieceForm({ pieces, create, open }: Props) {
  const field = useRef<InputRef>(null);
  const [name, setName] = useState('');
  const [begins, setBegins] = useState<string>(EMPTY);
  const [size, setSize] = useState<Size>(known(SCREENS['a part of a screen']));
  const [copyOf, setCopyOf] = useState<string | null>(null);
  // It may come after the panel: then nobody else gives it the focus.
  useEffect(() => field.current?.focus(), []);
  const wish = wishOf(name.trim(), begins, size, copyOf);
  return (
    <form
      id="new-piece"
      onSubmit={(event) => {
        event.preventDefault();
        if (wish) create(wish);
      }}
    >
      <Flex gap={8} style={WIDE}>
        <Input
          ref={field}
          placeholder="What is it called?"
          aria-label="Name"
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="primary" htmlType="submit" disabled={!wish}>
          Make it
        </Button>
      </Flex>
      <Chips label="Begins" chosen={begins} names={[EMPTY, ...Object.values(STARTERS), COPY]} choose={setBegins} />
      {begins === EMPTY && <MadeFor size={size} choose={setSize} />}
      {begins === COPY && (
        <Select
          showSearch
          aria-label="Piece to copy"
          placeholder="which piece?"
          style={{ ...WIDE, marginTop: 8 }}
          value={copyOf}
          optionFilterProp="label"
          options={pieces.filter(({ fault }) => !fault).map((piece) => ({ value: piece.id, label: piece.name }))}
          onChange={setCopyOf}
        />
      )}
      <p className="quiet" style={{ margin: '8px 0 0' }}>
        or <PlainButton onClick={open}>open files…</PlainButton> pieces, zips of them, or an SVG drawing
      </p>
    </form>
  );
}

/** Null as long as something is missing. */
function wishOf(name: string, begins: string, size: Size, copyOf: string | null): Beginning | null {
  if (!name) return null;
  if (begins === EMPTY) return { name, size };
  if (begins === COPY) return copyOf ? { name, copyOf } : null;
  const starter = (Object.keys(STARTERS) as Starter[]).find((key) => STARTERS[key] === begins);
  return starter ? { name, starter } : null;
}

/** A screen of some class, or a size of one's own. */
function MadeFor({ size, choose }: { size: Size; choose: (size: Size) => void }) {
  const [made, setMade] = useState('a part of a screen');
  const take = (name: string) => {
    setMade(name);
    if (SCREENS[name]) choose(SCREENS[name]);
  };
  const side = (name: 'width' | 'height') => (
    <NumberField
      label={name}
      unit="px"
      value={size[name]}
      commit={(value) =>
        value >= 1 && value <= 8192
          ? Promise.resolve(choose({ ...size, [name]: value, safe_area: null }))
          : Promise.reject(new Error(`${name} is ${value}. Give 1 to 8192.`))
      }
    />
  );
  return (
    <Chips label="Made for" chosen={made} names={[...Object.keys(SCREENS), OWN]} choose={take}>
      {made === OWN ? (
        <Flex gap={8}>
          {side('width')}
          {side('height')}
        </Flex>
      ) : (
        <span className="quiet num">
          {size.width} × {size.height} px
        </span>
      )}
    </Chips>
  );
}

interface ChipsProps {
  label: string;
  names: readonly string[];
  chosen: string;
  choose: (name: string) => void;
  children?: ReactNode;
}

const Chips = ({ label, names, chosen, choose, children }: ChipsProps) => (
  <Flex wrap align="center" gap={4} role="group" aria-label={label} style={{ ...WIDE, marginTop: 8 }}>
    <span className="quiet">{label.toLowerCase()}</span>
    {names.map((name) => (
      <Chip key={name} pressed={name === chosen} onClick={() => choose(name)}>
        {name}
      </Chip>
    ))}
    {children}
  </Flex>
);
