import { memo, type ReactNode } from 'react';
import { Input, type InputProps } from './Input';
import './field.css';
import { nudgeBy, parseNumber, parseText } from './parsing';
import { show } from '../text/sums';
import { FieldFault } from './FieldFault';
import { pullingSteps } from './pulling';
import { useLatest } from './useLatest';
import { useTyped } from './useTyped';

/** How far a label is pulled for one step. */
const PX_PER_STEP = 4;

interface NumberProps {
  label: string;
  /** The whole name, where the label is short. */
  name?: string;
  value: number;
  unit?: string;
  /** What one press of an arrow key adds. */
  step?: number;
  tone?: 'brass';
  /** Over the width of a pair. */
  wide?: boolean;
  /** px, where it does not take what there is. */
  width?: number;
  /** Several things differ in it. */
  mixed?: boolean;
  commit: (value: number) => Promise<void>;
}

/** A number that can be typed, added up, nudged with the arrow keys and dragged on its label. */
export function NumberField(props: NumberProps) {
  return <SteadyNumberField {...props} commit={useLatest(props.commit)} />;
}

/** Drawn anew when its value changes, and not whenever what is around it does: there are dozens on the page. */
const SteadyNumberField = memo(function SteadyNumberField({
  label,
  name,
  value,
  unit = '',
  step = 1,
  tone,
  wide = false,
  width,
  mixed = false,
  commit,
}: NumberProps) {
  const typed = useTyped({
    value,
    mixed,
    format: (v) => show(v),
    parse: (text) => parseNumber(text, unit),
    commit,
    nudge: nudgeBy(step),
  });
  const drag = pullingSteps(PX_PER_STEP, typed.step);
  return (
    <Frame
      typed={typed}
      tone={tone}
      wide={wide}
      width={width}
      prefix={
        <span className="field-label drag" {...drag}>
          {label}
        </span>
      }
      suffix={unit}
      aria-label={name ?? label}
      inputMode="decimal"
    />
  );
});

interface TypedProps<T> {
  label: string;
  name?: string;
  value: T;
  mixed?: boolean;
  format: (value: T) => string;
  parse: (text: string) => { value: T } | { fault: string };
  before?: ReactNode;
  commit: (value: T) => Promise<void>;
}

/** A line of text for a value of any kind. */
export function TypedField<T>({ label, name, before, ...options }: TypedProps<T>) {
  const typed = useTyped(options);
  return (
    <Frame
      typed={typed}
      prefix={
        <>
          <span className="field-label">{label}</span>
          {before}
        </>
      }
      aria-label={name ?? label}
      title={options.mixed ? 'differs' : options.format(options.value)}
    />
  );
}

/** A line of text, such as an easing. */
export function TextField(props: Omit<TypedProps<string>, 'format' | 'parse'>) {
  return <TypedField {...props} format={(text) => text} parse={parseText} />;
}

interface FrameProps extends InputProps {
  typed: { fault: string | null; input: InputProps };
  tone?: 'brass' | undefined;
  wide?: boolean;
  width?: number | undefined;
}

/** Label, text and unit in one box, and below it what is wrong. */
function Frame({ typed: { fault, input }, tone = undefined, wide, width, suffix, ...rest }: FrameProps) {
  return (
    <div className={`field${wide ? ' wide' : ''}`} style={{ width, flex: width ? 'none' : undefined }}>
      <Input
        {...input}
        {...rest}
        className={tone}
        status={fault === null ? '' : 'error'}
        suffix={suffix ? <span className="field-unit">{suffix}</span> : undefined}
      />
      <FieldFault text={inWordsOf(rest['aria-label'], fault)} />
    </div>
  );
}

/** The server calls a field as the document does; here it is called by its label. */
const inWordsOf = (name: string | undefined, fault: string | null) =>
  fault?.replace(/^[a-z]+(_[a-z]+)+(?= is )/, name ?? '$&') ?? null;
