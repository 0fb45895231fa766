/* A small piece for tests of edits, and what an edit makes of it. */
import { applyPatch } from 'fast-json-patch';
import type { Piece } from '../../../api/contract';
import * as edits from '.';
export const curve = { kind: 'curve' as const, duration_ms: 200, easing: 'ease' };
export const piece: Piece = {
  format: 1,
  id: 'p',
  name: 'P',
  width: 100,
  height: 100,
  layers: [
    {
      kind: 'group',
      id: 'g',
      name: 'G',
      x: 0,
      y: 0,
      width: 9,
      height: 9,
      layers: [{ kind: 'rectangle', id: 'r', name: 'R', x: 1, y: 2, width: 3, height: 4 }],
    },
    { kind: 'ellipse', id: 'e', name: 'E', x: 5, y: 5, width: 5, height: 5, opacity: 0.5 },
  ],
  states: [
    { id: 'a', name: 'A' },
    { id: 'b', name: 'B', changes: { r: { x: 9 }, e: { opacity: 1 } } },
    { id: 'c', name: 'C', changes: {} },
  ],
  start: 'a',
  transitions: [
    {
      id: 'ab',
      from: 'a',
      to: 'b',
      cue: 'hold',
      hold_ms: 120,
      style: 'tween',
      timing: curve,
      lanes: [{ layer: 'r', delay_ms: 10 }],
    },
    { id: 'bc', from: 'b', to: 'c', cue: 'tap', hold_ms: 0, style: 'tween', timing: { ...curve, duration_ms: 300 } },
  ],
};

export const after = (edit: edits.Edit, before = piece): Piece =>
  applyPatch(structuredClone(before), structuredClone(edit.patch) as never, true).newDocument;
