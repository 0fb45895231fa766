import { Flex, Slider } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { useLatest } from '../../../shared/ui/useLatest';
import { Swatches } from '../../../shared/ui/Swatches';
import { NumberField } from '../../../shared/ui/Field';
import { Choice } from '../../../shared/ui/Choice';
import { attemptCommit, useBench } from '../bench';
import { takeColour } from '../view';
import type { ColourProps } from './ColourField';
import { alongAxis, AXES, colourText, coordinatesOf, documentColours, type Coordinates, type Space } from './colours';
import { known } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';

const FRESH: Coordinates = { numbers: [0, 0, 0], alpha: 1 };
const SPACES: { value: Space; label: string }[] = [
  { value: 'hsl', label: 'HSL' },
  { value: 'oklch', label: 'OKLCH' },
];

/** What sets a colour: numbers of a colour space, colours of the piece, or the stage. */
export function ColourPanel({ label, value, commit, preview, close }: ColourProps & { close: () => void }) {
  const [space, setSpace] = useState<Space>('hsl');
  const { now, pull, put } = useCoordinates(value, space, commit, preview);
  const opaque = colourText({ ...now, alpha: 1 }, space);
  return (
    <Flex vertical gap={7} style={{ width: 276 }} role="group" aria-label={`Colour of ${label}`}>
      <Choice<Space> block size="small" aria-label="Colour space" value={space} options={SPACES} onChange={setSpace} />
      {AXES[space].map((axis, i) => (
        <Slide
          key={axis.name}
          {...axis}
          value={known(now.numbers[i])}
          ground={alongAxis(now, space, i)}
          pull={(number) => pull(withNumber(now, space, i, number))}
          put={(number) => put(withNumber(now, space, i, number))}
        />
      ))}
      <Slide
        name="alpha"
        unit="%"
        most={100}
        step={1}
        value={Math.round(now.alpha * 1000) / 10}
        ground={`linear-gradient(90deg, transparent, ${opaque})`}
        pull={(n) => pull({ ...now, alpha: n / 100 })}
        put={(n) => put({ ...now, alpha: Math.min(Math.max(n / 100, 0), 1) })}
      />
      <Patches value={value} commit={commit} />
      <Flex justify="space-between">
        <PlainButton
          onClick={() => {
            takeColour((colour) => attemptCommit(commit(colour)));
            close();
          }}
        >
          pick from the stage
        </PlainButton>
        <PlainButton onClick={() => attemptCommit(commit('none'))}>none</PlainButton>
      </Flex>
    </Flex>
  );
}

/** The colour in numbers: what is being pulled, or the last that was set, since grey would forget its hue. */
function useCoordinates(value: string, space: Space, commit: ColourProps['commit'], preview: ColourProps['preview']) {
  const [draft, setDraft] = useState<Coordinates | null>(null);
  const [kept, setKept] = useState<{ space: Space; at: Coordinates } | null>(null);
  const before = kept?.space === space ? kept.at : undefined;
  const exact = before && colourText(before, space) === value ? before : null;
  const isPulled = useRef(false);
  const giveUp = useLatest(() => preview?.(null));
  // Closed while it is pulled: what is kept is seen again.
  useEffect(
    () => () => {
      if (isPulled.current) giveUp();
    },
    [giveUp],
  );
  const pull = (next: Coordinates) => {
    isPulled.current = true;
    setDraft(next);
    preview?.(colourText(next, space));
  };
  const put = async (next: Coordinates) => {
    setKept({ space, at: next });
    isPulled.current = false;
    setDraft(null);
    try {
      await commit(colourText(next, space));
    } catch (error) {
      preview?.(null);
      throw error;
    }
  };
  return { now: draft ?? exact ?? coordinatesOf(value, space, before) ?? FRESH, pull, put };
}

function withNumber(now: Coordinates, space: Space, axis: number, number: number): Coordinates {
  const most = known(AXES[space][axis]).most;
  const [a, b, c] = now.numbers.map((old, i) => (i === axis ? Math.min(Math.max(number, 0), most) : old));
  return { ...now, numbers: [known(a), known(b), known(c)] };
}

/** The colours that the piece has already. */
function Patches({ value, commit }: Pick<ColourProps, 'value' | 'commit'>) {
  const piece = useBench((b) => b.document);
  return (
    <Flex wrap gap={4} className="patches" role="group" aria-label="Colours of this piece">
      <Swatches
        size={18}
        colours={documentColours(piece).map((colour) => [colour, colour])}
        chosen={value}
        choose={(colour) => void attemptCommit(commit(colour))}
      />
    </Flex>
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
  return (
    <Flex align="center" gap={8}>
      <Slider
        style={{ flex: 1, margin: '0 4px' }}
        ariaLabelForHandle={name}
        min={0}
        max={most}
        step={step}
        value={value}
        tooltip={{ open: false }}
        included={false}
        styles={{ rail: { background: ground } }}
        onChange={pull}
        onChangeComplete={(next) => attemptCommit(put(next))}
      />
      <NumberField
        label={name}
        width={128}
        name={`${name}, typed`}
        unit={unit}
        step={step}
        value={Math.round((value * 20) / step) * (step / 20)}
        commit={put}
      />
    </Flex>
  );
}
