import { Button, type ButtonProps } from 'antd';

/** An action in plain words, among others of its kind. */
export const PlainButton = ({ className, ...rest }: ButtonProps) => (
  <Button type="text" size="small" className={className ? `plain ${className}` : 'plain'} {...rest} />
);
