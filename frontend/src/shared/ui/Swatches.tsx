import { Swatch } from './Swatch';

interface Props {
  colours: readonly (readonly [name: string, colour: string])[];
  /** The colour that holds. */
  chosen: string;
  /** px */
  size: number;
  choose: (colour: string) => void;
}

/** Colours by name, to choose one of. */
export const Swatches = ({ colours, chosen, size, choose }: Props) =>
  colours.map(([name, colour]) => (
    <Swatch
      key={name}
      size={size}
      colour={colour}
      title={name}
      aria-label={name}
      aria-pressed={chosen === colour}
      onClick={() => choose(colour)}
    />
  ));
