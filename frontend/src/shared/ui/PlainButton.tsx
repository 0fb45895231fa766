import { Button, type ButtonProps } from 'antd';
import { memo } from 'react';
import { useLatest } from './useLatest';

type Click = Parameters<NonNullable<ButtonProps['onClick']>>[0];

/** An action in plain words, among others of its kind. */
export function PlainButton({ onClick, ...rest }: ButtonProps) {
  return <SteadyButton {...rest} onClick={useLatest((event: Click) => onClick?.(event))} />;
}

const SteadyButton = memo(function SteadyButton({ className, ...rest }: ButtonProps) {
  return <Button type="text" size="small" className={className ? `plain ${className}` : 'plain'} {...rest} />;
});
