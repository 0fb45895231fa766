import { Segmented, type SegmentedProps } from 'antd';
import { useRef } from 'react';

type Props<T extends string | number> = Omit<SegmentedProps<T>, 'onChange' | 'ref'> & { onChange: (value: T) => void };

/** One of a few. An arrow key is heard by the browser's radio button and by the component: it is told once. */
export function Choice<T extends string | number>({ onChange, ...rest }: Props<T>) {
  const told = useRef<T | null>(null);
  const tell = (value: T) => {
    if (told.current === value) return;
    told.current = value;
    setTimeout(() => (told.current = null));
    onChange(value);
  };
  return <Segmented<T> {...rest} onChange={tell} />;
}
