import { useState, type CSSProperties, type KeyboardEvent } from 'react';
import { known } from '../../../shared/known';
import { textOf } from '../../../shared/text/values';
import { useBusy } from '../../../shared/ui/hands';
import { variationOf } from '../../player';
import { attempt } from '../bench';
import { looksEdit } from '../looks';
import { look as show } from '../view';
import { ownMatrix, type OverLayer } from './useHandles';

/** A text typed where it stands. Enter keeps it, Shift Enter begins a line, Escape gives it up. */
export function TextInPlace(over: OverLayer) {
  const { id, pose, zoom } = over;
  const look = known(pose[id]);
  const [draft, setDraft] = useState(textOf(look.text));
  useBusy(true);
  const close = () => show({ text: null });
  const keep = async () => {
    // What is refused stays open, as it was typed.
    if (draft === look.text || (await attempt(looksEdit({ [id]: { text: draft } })))) close();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === 'Escape') close();
    else if (event.key === 'Enter' && !event.shiftKey) void keep();
    else return;
    event.preventDefault();
  };
  const { a, b, c, d, e, f } = ownMatrix(over);
  const place = [a * zoom, b * zoom, c * zoom, d * zoom, e * zoom, f * zoom].join();
  const style: CSSProperties = {
    width: Number(look.width),
    height: Math.max(Number(look.height), Number(look.font_size) * Number(look.line_height) * draft.split('\n').length),
    transform: `matrix(${place})`,
    font: `${textOf(look.font_weight)} ${textOf(look.font_size)}px/${textOf(look.line_height)} ${JSON.stringify(look.font_family)}`,
    fontVariationSettings: variationOf(look),
    letterSpacing: `${textOf(look.letter_spacing)}px`,
    whiteSpace: textOf(look.white_space),
    textAlign: look.text_align === 'centre' ? 'center' : (textOf(look.text_align) as 'left' | 'right'),
  };
  return (
    <textarea
      className="text-in-place"
      aria-label="Text on the stage"
      value={draft}
      style={style}
      spellCheck={false}
      // It was asked for by a double click or by Enter.
      // eslint-disable-next-line jsx-a11y-x/no-autofocus
      autoFocus
      onFocus={(event) => event.target.select()}
      onChange={(event) => setDraft(event.target.value)}
      onKeyDown={onKeyDown}
      onBlur={() => void keep()}
      onPointerDown={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
    />
  );
}
