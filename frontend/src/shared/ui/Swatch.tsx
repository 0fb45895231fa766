import { Button, type ButtonProps } from 'antd';

interface Props extends Omit<ButtonProps, 'size'> {
  colour: string;
  /** px */
  size: number;
}

/** A colour to be pressed. */
export const Swatch = ({ colour, size, className = '', ...rest }: Props) => (
  <Button className={`swatch ${className}`} style={{ background: colour, width: size, height: size }} {...rest} />
);
