import { memo, type ReactNode } from 'react';
import { Input, type InputProps } from './Input';
import './field.css';
import { nudgeBy, parseChange, parseNumber, parseText } from './parsing';
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
  /** What an empty text means, where it has a meaning. */
  clear?: (() => Promise<void>) | undefined;
}

/** A number that can be typed, added up, nudged with the arrow keys and dragged on its label. */
export function NumberField(props: NumberProps) {
  const clear = useLatest(props.clear ?? nothing);
  return <SteadyNumberField {...props} commit={useLatest(props.commit)} clear={props.clear && clear} />;
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
  clear,
}: NumberProps) {
  const typed = useTyped({
    value,
    mixed,
    format: (v) => show(v),
    parse: (text) => parseNumber(text, unit),
    commit,
    clear,
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
  clear?: (() => Promise<void>) | undefined;
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

const nothing = () => Promise.resolve();

type Change = (from: number) => number;

interface ChangeProps {
  label: string;
  name: string;
  /** Of all that the field is for. */
  values: readonly number[];
  unit?: string;
  step?: number;
  wide?: boolean;
  /** Where no value is below 0 a minus alone counts down; elsewhere it is the number. */
  countsDown?: boolean;
  commit: (change: Change) => Promise<void>;
  clear?: (() => Promise<void>) | undefined;
}

/** A number of several things, or nothing where they differ; typed as one for all, or as a change of each. */
export function ChangeField({ label, name, values, unit = '', step = 1, wide = false, ...rest }: ChangeProps) {
  const { countsDown = false, commit, clear } = rest;
  const mixed = new Set(values).size > 1;
  const typed = useTyped<Change>({
    value: () => values[0] ?? 0,
    mixed,
    // A change is told by what it makes of two numbers.
    format: (change) => (change(0) === change(1) ? show(change(0)) : `${change(0)} and ${change(1)}`),
    parse: (text) =>
      parseChange(!countsDown && /^\s*[-−]\s*[\d.]/.test(text) && !text.endsWith('%') ? `=${text}` : text, unit),
    commit,
    clear,
    nudgeEach: (steps) => commit((from) => nudgeBy(step)(from, steps)),
  });
  const drag = pullingSteps(PX_PER_STEP, typed.step);
  return (
    <Frame
      typed={typed}
      wide={wide}
      prefix={
        <span className="field-label drag" {...drag}>
          {label}
        </span>
      }
      suffix={mixed ? '' : unit}
      aria-label={name}
      title="+40, *0.5 or -10% change each from its own"
    />
  );
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
