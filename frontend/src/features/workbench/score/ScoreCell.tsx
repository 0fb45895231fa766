import { memo, useState } from 'react';
import type { Value } from '../../../api/answers';
import { nudgeBy } from '../../../shared/ui/parsing';
import { useTyped } from '../../../shared/ui/useTyped';
import { isTyped, parseValue, swatchOf, valueText } from '../../../shared/text/values';
import { choose, make, useBench } from '../bench';
import { clearValue, setValues } from '../edits';
import { propertyNamed } from '../tree';

/** Set in this state, rather than taken from the base. */
export const OWN = 1;
/** As in the state before. */
export const SAME = 2;
/** In the state that is being posed. */
export const POSED = 4;

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
const goTo = (row: number, column: number) => document.querySelector<HTMLInputElement>(`[data-cell="${row},${column}"]`)?.focus();

/** One number of the score. */
export const ScoreCell = memo(function ScoreCell({ layer, property, state, value, look, row, column }: Props) {
  const [focused, setFocused] = useState(false);
  const info = propertyNamed(property);
  const numeric = info.blend === 'linear';
  const swatch = swatchOf(info, value);
  const typed = useTyped<Value>({
    value,
    format: (v) => valueText(v),
    parse: (text) => (text.trim() === '' ? { value: '' } : parseValue(info, text)),
    commit: (next) => {
      const { document: piece } = useBench.getState();
      return make(next === '' ? clearValue(piece!, state, layer, property) : setValues(piece!, state, layer, { [property]: next }, 'state'));
    },
    nudge: numeric ? (v, steps) => nudgeBy(info.unit === '' ? 0.05 : 1)(Number(v), steps) : undefined,
    onEnter: (back) => goTo(row + (back ? -1 : 1), column),
  });
  const own = Boolean(look & OWN);
  const resting = look & SAME && !focused && !typed.fault;
  const tone = `${own ? '' : ' base'}${look & POSED ? ' posed' : ''}${typed.fault ? ' wrong' : ''}`;
  return (
    <td className={`cell${tone}`}>
      {swatch && !resting && <span className="swatch" style={{ background: swatch }} />}
      <input
        {...typed.input}
        value={resting ? '·' : focused || typed.fault || typeof value !== 'number' ? typed.input.value : valueText(value, info.unit)}
        className={numeric ? '' : swatch ? 'colour' : 'words'}
        readOnly={!isTyped(info)}
        data-cell={`${row},${column}`}
        aria-label={`${info.label} of ${layer} in ${state}`}
        title={own ? undefined : 'From the base'}
        onFocus={(event) => {
          setFocused(true);
          choose({ state, layer });
          const { target } = event;
          requestAnimationFrame(() => target.select());
        }}
        onBlur={() => {
          setFocused(false);
          typed.input.onBlur();
        }}
      />
      {typed.fault && (
        <span role="alert" className="field-fault">
          {typed.fault}
        </span>
      )}
    </td>
  );
});
