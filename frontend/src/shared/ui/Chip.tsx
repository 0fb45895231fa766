import { Button, type ButtonProps } from 'antd';
import { memo } from 'react';
import { useClick } from './useClick';

interface Props extends ButtonProps {
  /** Whether it is the one that holds; nothing where it is a mere action. */
  pressed?: boolean | undefined;
}

/** One of a few small choices beside each other. */
export function Chip({ onClick, ...rest }: Props) {
  return <SteadyChip {...rest} onClick={useClick(onClick)} />;
}

const SteadyChip = memo(function SteadyChip({ pressed, className = '', ...rest }: Props) {
  return <Button size="small" className={`chip ${className}`} aria-pressed={pressed} {...rest} />;
});
