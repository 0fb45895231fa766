import { Button, type ButtonProps } from 'antd';
import { memo } from 'react';
import { useLatest } from './useLatest';

type Click = Parameters<NonNullable<ButtonProps['onClick']>>[0];

interface Props extends ButtonProps {
  /** Whether it is the one that holds; nothing where it is a mere action. */
  pressed?: boolean | undefined;
}

/** One of a few small choices beside each other. */
export function Chip({ onClick, ...rest }: Props) {
  return <SteadyChip {...rest} onClick={useLatest((event: Click) => onClick?.(event))} />;
}

const SteadyChip = memo(function SteadyChip({ pressed, className = '', ...rest }: Props) {
  return <Button size="small" className={`chip ${className}`} aria-pressed={pressed} {...rest} />;
});
