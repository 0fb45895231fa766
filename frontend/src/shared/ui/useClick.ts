import type { ButtonProps } from 'antd';
import { useLatest } from './useLatest';

type Click = Parameters<NonNullable<ButtonProps['onClick']>>[0];

/** What a button does, as one function for good: a button is not drawn anew because what is around it is. */
export const useClick = (onClick: ButtonProps['onClick']) => useLatest((event: Click) => onClick?.(event));
