/* What parts of the bench can do by a key, as long as they are there. */
export const stage = {
  toFit: () => {},
  toSize: () => {},
  toChosen: () => {},
  by: (factor: number) => void factor,
  addMenu: () => {},
  stateMenu: () => {},
};
