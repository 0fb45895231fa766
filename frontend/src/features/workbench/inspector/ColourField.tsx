import { Popover } from 'antd';
import { useState } from 'react';
import { NumberField, TextField } from '../../../shared/ui/Field';
import { Choice } from '../../../shared/ui/Choice';
import { attemptCommit, useBench } from '../bench';
import { takeColour } from '../view';
import { alongAxis, AXES, colourText, coordinatesOf, documentColours, type Coordinates, type Space } from './colours';
import { known } from '../../../shared/known';

interface Props {
  label: string;
  value: string;
  mixed?: boolean;
  commit: (value: string) => Promise<void>;
}

/** A colour as CSS text, with a patch of it that opens what sets it otherwise. */
export function ColourField({ label, value, mixed = false, commit }: Props) {
  const [open, setOpen] = useState(false);
  const patch = (
    <Popover
      trigger="click"
      placement="left"
      // Clear of the fields around it.
      align={{ offset: [-112, 0] }}
      arrow={false}
      open={open}
      onOpenChange={setOpen}
      destroyOnHidden
      content={<ColourPanel label={label} value={value} commit={commit} close={() => setOpen(false)} />}
    >
      <button
        className="colour-swatch"
        aria-label={`Choose ${label}`}
        style={{ background: value === 'none' || mixed ? 'transparent' : value }}
      />
    </Popover>
  );
  return <TextField label={label} name={label} value={value} mixed={mixed} before={patch} commit={commit} />;
}

const FRESH: Coordinates = { numbers: [0, 0, 0], alpha: 1 };

function ColourPanel({ label, value, commit, close }: Props & { close: () => void }) {
  const piece = useBench((b) => b.document);
  const [space, setSpace] = useState<Space>('hsl');
  // What is being pulled, and the last hue, which grey would forget.
  const [draft, setDraft] = useState<Coordinates | null>(null);
  const [kept, setKept] = useState<{ space: Space; at: Coordinates } | null>(null);
  const before = kept?.space === space ? kept.at : undefined;
  const exact = before && colourText(before, space) === value ? before : null;
  const now = draft ?? exact ?? coordinatesOf(value, space, before) ?? FRESH;

  const put = async (next: Coordinates) => {
    setKept({ space, at: next });
    setDraft(null);
    await commit(colourText(next, space));
  };
  const withNumber = (axis: number, number: number): Coordinates => {
    const numbers = [...now.numbers] as [number, number, number];
    numbers[axis] = Math.min(Math.max(number, 0), known(AXES[space][axis]).most);
    return { ...now, numbers };
  };
  const opaque = colourText({ ...now, alpha: 1 }, space);
  return (
    <div className="colour-panel" role="group" aria-label={`Colour of ${label}`}>
      <Choice<Space>
        block
        size="small"
        aria-label="Colour space"
        value={space}
        options={[
          { value: 'hsl', label: 'HSL' },
          { value: 'oklch', label: 'OKLCH' },
        ]}
        onChange={setSpace}
      />
      {AXES[space].map((axis, i) => (
        <Slide
          key={axis.name}
          {...axis}
          value={known(now.numbers[i])}
          ground={alongAxis(now, space, i)}
          pull={(number) => setDraft(withNumber(i, number))}
          put={(number) => put(withNumber(i, number))}
        />
      ))}
      <Slide
        name="alpha"
        unit="%"
        most={100}
        step={1}
        value={Math.round(now.alpha * 1000) / 10}
        ground={`linear-gradient(90deg, transparent, ${opaque})`}
        pull={(n) => setDraft({ ...now, alpha: n / 100 })}
        put={(n) => put({ ...now, alpha: Math.min(Math.max(n / 100, 0), 1) })}
      />
      <div className="patches" role="group" aria-label="Colours of this piece">
        {documentColours(piece).map((colour) => (
          <button
            key={colour}
            title={colour}
            aria-label={colour}
            aria-pressed={colour === value}
            style={{ background: colour }}
            onClick={() => attemptCommit(commit(colour))}
          />
        ))}
      </div>
      <div className="colour-foot">
        <button
          className="plain"
          onClick={() => {
            takeColour((colour) => attemptCommit(commit(colour)));
            close();
          }}
        >
          pick from the stage
        </button>
        <button className="plain" onClick={() => attemptCommit(commit('none'))}>
          none
        </button>
      </div>
    </div>
  );
}

interface SlideProps {
  name: string;
  unit: string;
  most: number;
  step: number;
  value: number;
  ground: string;
  pull: (value: number) => void;
  put: (value: number) => Promise<void>;
}

/** One number of a colour: pulled along what it would become, or typed. An edit when it is let go. */
function Slide({ name, unit, most, step, value, ground, pull, put }: SlideProps) {
  const letGo = (event: { currentTarget: HTMLInputElement }) => attemptCommit(put(Number(event.currentTarget.value)));
  return (
    <div className="slide">
      <input
        type="range"
        aria-label={name}
        min={0}
        max={most}
        step={step}
        value={value}
        style={{ background: ground }}
        onChange={(event) => pull(Number(event.target.value))}
        onPointerUp={letGo}
        onKeyUp={letGo}
      />
      <NumberField
        label={name}
        name={`${name}, typed`}
        unit={unit}
        step={step}
        value={Math.round((value * 20) / step) * (step / 20)}
        commit={put}
      />
    </div>
  );
}
