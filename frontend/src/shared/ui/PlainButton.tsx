import { Button, type ButtonProps } from 'antd';
import { memo } from 'react';
import { useClick } from './useClick';

/** An action in plain words, among others of its kind. */
export function PlainButton({ onClick, ...rest }: ButtonProps) {
  return <SteadyButton {...rest} onClick={useClick(onClick)} />;
}

const SteadyButton = memo(function SteadyButton({ className, ...rest }: ButtonProps) {
  return <Button type="text" size="small" className={className ? `plain ${className}` : 'plain'} {...rest} />;
});
