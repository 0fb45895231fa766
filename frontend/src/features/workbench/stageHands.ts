/* What parts of the bench can do by a key, as long as they are there. */
import type { Value } from '../../api/contract';

export const stage = {
  toFit: () => {},
  toSize: () => {},
  toChosen: () => {},
  by: (factor: number) => void factor,
  /** A value that is being pulled, as it will be seen; null shows again what is kept. */
  preview: (ids: readonly string[], property: string, value: Value | null) => void [ids, property, value],
  addMenu: () => {},
  stateMenu: () => {},
};
