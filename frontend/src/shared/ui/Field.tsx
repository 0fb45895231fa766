import type { ReactNode } from 'react';
import './field.css';
import { nudgeBy, parseNumber, parseText } from './parsing';
import { show } from '../text/sums';
import { FieldFault } from './FieldFault';
import { pullingSteps } from './pulling';
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
  /** Several things differ in it. */
  mixed?: boolean;
  commit: (value: number) => Promise<void>;
}

/** A number that can be typed, added up, nudged with the arrow keys and dragged on its label. */
export function NumberField({
  label,
  name,
  value,
  unit = '',
  step = 1,
  tone,
  wide = false,
  mixed = false,
  commit,
}: NumberProps) {
  const typed = useTyped({
    value,
    mixed,
    format: (v) => show(v),
    parse: parseNumber,
    commit,
    nudge: nudgeBy(step),
  });
  const drag = pullingSteps(PX_PER_STEP, typed.step);
  return (
    <Frame
      fault={typed.fault}
      tone={tone}
      wide={wide}
      label={
        <span className="field-label drag" {...drag}>
          {label}
        </span>
      }
      unit={unit}
    >
      <input {...typed.input} aria-label={name ?? label} inputMode="decimal" />
    </Frame>
  );
}

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
    <Frame fault={typed.fault} label={<span className="field-label">{label}</span>}>
      {before}
      <input
        {...typed.input}
        aria-label={name ?? label}
        title={options.mixed ? 'differs' : options.format(options.value)}
      />
    </Frame>
  );
}

/** A line of text, such as an easing. */
export function TextField(props: Omit<TypedProps<string>, 'format' | 'parse'>) {
  return <TypedField {...props} format={(text) => text} parse={parseText} />;
}

interface FrameProps {
  fault: string | null;
  label: ReactNode;
  unit?: string;
  tone?: 'brass' | undefined;
  wide?: boolean;
  children: ReactNode;
}

function Frame({ fault, label, unit, tone, wide, children }: FrameProps) {
  return (
    <label className={`field${fault ? ' wrong' : ''}${tone ? ` ${tone}` : ''}${wide ? ' wide' : ''}`}>
      {label}
      {children}
      {unit && <span className="field-unit">{unit}</span>}
      <FieldFault text={fault} />
    </label>
  );
}
