import { memo, useState, type KeyboardEvent, type MouseEvent } from 'react';
import type { Value } from '../../../api/contract';
import { nudgeBy } from '../../../shared/ui/parsing';
import { useTyped } from '../../../shared/ui/useTyped';
import { isTyped, parseValue, swatchOf, valueText } from '../../../shared/text/values';
import { make, useBench } from '../bench';
import { choose } from '../choosing';
import { clearValue, setValues } from '../edits';
import { originalOf, stateCalled, stateOf } from '../placements';
import { propertyNamed } from '../tree';
import { beginBlock, extendBlock, isIn, isMany, useBlock, type Place } from './block';
import { OWN, SAME, toneOf } from './looks';
import { FieldFault } from '../../../shared/ui/FieldFault';
import { clear, shown } from './blockActions';
import { known } from '../../../shared/known';

interface Props {
  layer: string;
  property: string;
  state: string;
  value: Value;
  /** OWN, SAME and POSED, added up. */
  look: number;
  row: number;
  column: number;
}

/** Down or up by Enter, as in a sheet; Tab goes to the right by itself. */
const goTo = (row: number, column: number) =>
  document.querySelector<HTMLInputElement>(`[data-cell="${row},${column}"]`)?.focus();

const BLOCK_ARROWS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** Whether the cell is where a block was begun: it stays so while the block is drawn. */
const holdsFocus = ([row, column]: Place) => {
  const { block } = useBlock.getState();
  return block?.from[0] === row && block.from[1] === column;
};

/** Ctrl Shift and the arrows make the block larger, Delete takes a block of several back to the base. */
function blockKey(event: KeyboardEvent, here: Place): boolean {
  const arrow = event.ctrlKey && event.shiftKey ? BLOCK_ARROWS[event.key] : undefined;
  const block = useBlock.getState().block;
  if (arrow) extendTo(block?.to ?? here, arrow);
  else if (event.key === 'Delete' && block && isMany(block)) void clear();
  else return false;
  event.preventDefault();
  event.stopPropagation();
  return true;
}

/** To the next row, or to the next column of a state. */
function extendTo([row, column]: Place, [down, across]: [number, number]): void {
  let at = column + across;
  while (across && shown.columns[at] && known(shown.columns[at]).kind !== 'state') at += across;
  const next = row + down;
  if (shown.columns[at] && shown.rows[next] !== undefined) extendBlock([next, at]);
}

const PATCH = {
  position: 'absolute',
  inset: '8px auto auto 5px',
  width: 9,
  height: 9,
  border: '1px solid var(--hairline)',
} as const;

/** One number of the score, and plain text for as long as it only passes by: fields are slow to lay out. */
export const ScoreCell = memo(function ScoreCell({ passing, ...cell }: Props & { passing: boolean }) {
  const [met, setMet] = useState(!passing);
  if (!passing && !met) setMet(true);
  if (met) return <CellField {...cell} />;
  return <PassingCell value={cell.value} look={cell.look} unit={propertyNamed(cell.property).unit} />;
});

export function PassingCell({ value, look, unit }: { value: Value; look: number; unit: string }) {
  return <td className={`cell passing${toneOf(look)}`}>{look & SAME ? '·' : valueText(value, unit)}</td>;
}

const CellField = memo(function CellField(props: Props) {
  const { layer, property, state, value, look, row, column } = props;
  const info = propertyNamed(property);
  const swatch = swatchOf(info, value);
  const isInBlock = useBlock((s) => isIn(s.block, row, column));
  const { typed, focused, hands } = useCell(props);
  const resting = look & SAME && !focused && !typed.fault;
  const tone = `${toneOf(look)}${typed.fault ? ' wrong' : ''}${isInBlock ? ' in-block' : ''}`;
  const withUnit = !focused && !typed.fault && typeof value === 'number';
  return (
    <td className={`cell${tone}`}>
      {swatch && !resting && <span style={{ ...PATCH, background: swatch }} />}
      <input
        {...typed.input}
        value={resting ? '·' : withUnit ? valueText(value, info.unit) : typed.input.value}
        className={info.blend === 'linear' ? '' : swatch ? 'colour' : 'words'}
        readOnly={!isTyped(info)}
        data-cell={`${row},${column}`}
        aria-label={`${info.label} of ${layer} in ${state}`}
        title={look & OWN ? undefined : 'From the base'}
        {...hands}
      />
      <FieldFault text={typed.fault} />
    </td>
  );
});

/** What is typed into it, and how it takes part in blocks of cells. */
function useCell({ layer, property, state, value, row, column }: Props) {
  const [focused, setFocused] = useState(false);
  const info = propertyNamed(property);
  const original = useBench((b) => (info.blend === 'placed' ? originalOf(b, layer) : undefined));
  const typed = useTyped<Value>({
    value,
    format: (v) => (original ? stateCalled(original, v) : valueText(v)),
    parse: (text) => {
      if (text.trim() === '') return { value: '' };
      return original ? stateOf(original, text.trim()) : parseValue(info, text);
    },
    commit: (next) => make(next === '' ? cleared() : set(next)),
    nudge: info.blend === 'linear' ? (v, steps) => nudgeBy(info.step)(Number(v), steps) : undefined,
    onEnter: (back) => goTo(row + (back ? -1 : 1), column),
  });
  const cleared = () => clearValue(useBench.getState().document, state, layer, property);
  const set = (next: Value) => setValues(useBench.getState().document, state, layer, { [property]: next }, 'state');
  const hands = {
    onMouseDown: (event: MouseEvent) => {
      if (!event.shiftKey) return beginBlock([row, column]);
      event.preventDefault();
      extendBlock([row, column]);
    },
    onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => {
      if (!blockKey(event, [row, column])) typed.input.onKeyDown(event);
    },
    onFocus: ({ target }: { target: HTMLInputElement }) => {
      setFocused(true);
      if (!holdsFocus([row, column])) beginBlock([row, column]);
      choose({ state, layer });
      // Where the focus has gone on already, selecting would take it back.
      requestAnimationFrame(() => document.activeElement === target && target.select());
    },
    onBlur: () => {
      setFocused(false);
      typed.input.onBlur();
    },
  };
  return { typed, focused, hands };
}
