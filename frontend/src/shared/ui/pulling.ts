import type { PointerEvent } from 'react';

interface Pull<E extends Element> {
  /** False where what was pressed is not to be pulled. */
  press: (event: PointerEvent<E>) => unknown;
  /** While it is held. */
  move: (event: PointerEvent<E>) => void;
  release?: (event: PointerEvent<E>) => void;
  giveUp?: (event: PointerEvent<E>) => void;
}

/** Handlers of a pull: the pointer stays with the element, also outside of it, until it is let go. */
export function pulling<E extends Element>({ press, move, release, giveUp }: Pull<E>) {
  return {
    onPointerDown: (event: PointerEvent<E>) => {
      if (press(event) !== false) event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove: (event: PointerEvent<E>) => {
      if (event.buttons === 1) move(event);
    },
    ...(release && { onPointerUp: release }),
    ...(giveUp && { onPointerCancel: giveUp }),
  };
}

/** The same where every place of the pointer, pressed or moved, means the same. */
export const scrubbing = <E extends Element>(to: (event: PointerEvent<E>) => void) =>
  pulling<E>({ press: (event) => (event.buttons === 1 ? to(event) : false), move: to });

/** How far an element has been pulled to the right since its last step. */
const pulled = new WeakMap<Element, number>();

/** Pulled sideways: a step for every so many px. */
export const pullingSteps = (px: number, step: (by: number) => void) =>
  pulling({
    press: ({ currentTarget }) => void pulled.set(currentTarget, 0),
    move: ({ currentTarget, movementX }) => {
      const way = (pulled.get(currentTarget) ?? 0) + movementX;
      const steps = Math.trunc(way / px);
      pulled.set(currentTarget, way - steps * px);
      if (steps) step(steps);
    },
  });
