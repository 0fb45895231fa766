interface Keys {
  shiftKey: boolean;
  ctrlKey: boolean;
  altKey: boolean;
}

/** How far an arrow key goes: 1, with Shift 10, with Ctrl and Shift 100, with Alt a tenth. */
export const farBy = ({ shiftKey, ctrlKey, altKey }: Keys): number =>
  shiftKey ? (ctrlKey ? 100 : 10) : altKey ? 0.1 : 1;
