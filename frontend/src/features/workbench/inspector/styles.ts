import type { Transition } from '../../../api/contract';

/** The ways from one look to another, as they are chosen from. */
export const STYLES: { value: NonNullable<Transition['style']>; label: string; title?: string }[] = [
  { value: 'tween', label: 'Tween' },
  { value: 'cut', label: 'Cut' },
  { value: 'cross-fade', label: 'Cross-fade', title: 'The new look comes through the old one' },
];
