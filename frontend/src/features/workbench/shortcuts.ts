/* The keys of the bench, in one table: for the hands and for the help sheet. */
import * as actions from './actions';
import { navigate } from 'wouter/use-browser-location';
import type { Session } from '../../runtime/session';
import { clock, goBack, useBench } from './bench';
import { playedRun } from './course';
import { stage } from './stageHands';
import { look, useView } from './view';
import { changeRate, nextGround, nextLook, stepFrames, switchFollowing, switchPixels } from './watch/watch';
import { known } from '../../shared/known';

export interface Shortcut {
  /** As the keyboard names it, with Ctrl and Alt before it. */
  keys: string;
  does: string;
  run: (event: KeyboardEvent) => unknown;
}

/** What is rehearsed, as long as something is. */
export const rehearsal: { session: Session | null } = { session: null };

function toRehearsal(): void {
  const bench = `/pieces/${useBench.getState().id}`;
  navigate(window.location.pathname === `${bench}/rehearse` ? bench : `${bench}/rehearse`);
}

/** Layers, pose, loop, score and inspector, as landmarks in their order. */
const PARTS = '.layers, .stage, .score, .inspector';
const FOCUSABLE = 'button:not(:disabled), input:not(:disabled, [type=file]), [tabindex="0"], summary, a[href]';

/** The focus goes from part to part, round and round, to the first control of each. */
function goToPart(by: 1 | -1): void {
  const parts = [...document.querySelectorAll<HTMLElement>(PARTS)];
  const at = parts.findIndex((part) => part.contains(document.activeElement));
  const next = parts[(Math.max(at, by === 1 ? -1 : 0) + by + parts.length) % parts.length];
  if (next?.matches('[tabindex="0"]')) next.focus();
  else next?.querySelector<HTMLElement>(FOCUSABLE)?.focus();
}

const draw = (tool: 'pen' | 'line') => () =>
  look({ tool: useView.getState().tool === tool ? 'choose' : tool, points: null });

const moveBy =
  (x: number, y: number) =>
  ({ shiftKey }: KeyboardEvent) =>
    actions.nudgeChosen(x * (shiftKey ? 10 : 1), y * (shiftKey ? 10 : 1));

export const SHORTCUTS: Record<string, Shortcut[]> = {
  Loop: [
    { keys: 'Space', does: 'play or pause', run: () => clock.setPlaying(!clock.playing) },
    { keys: ',', does: 'one frame back, of the rate on the run sheet', run: () => stepFrames(-1) },
    { keys: '.', does: 'one frame on', run: () => stepFrames(1) },
    { keys: 'Home', does: 'to the beginning of the run', run: () => clock.seek(0) },
    { keys: 'End', does: 'to its end', run: () => clock.seek(Math.max(playedRun().total_ms - 1e-3, 0)) },
  ],
  Rehearse: [
    { keys: 'Space', does: 'pause or go on', run: () => rehearsal.session?.pause(rehearsal.session.playing) },
    { keys: ',', does: 'one frame back (of 60 per second)', run: () => rehearsal.session?.step(-1) },
    { keys: '.', does: 'one frame on', run: () => rehearsal.session?.step(1) },
  ],
  Everywhere: [
    { keys: 'R', does: 'rehearse the piece, and back to the workbench', run: toRehearsal },
    { keys: 'Ctrl z', does: 'undo', run: () => goBack('undo') },
    { keys: 'Ctrl Z', does: 'redo', run: () => goBack('redo') },
    { keys: 'Ctrl y', does: '', run: () => goBack('redo') },
    { keys: 'Escape', does: 'leave a trial or a tool; then one level up, to the piece', run: actions.leave },
    { keys: 'F6', does: 'to the next part of the bench; with Shift to the one before', run: () => goToPart(1) },
    { keys: 'Shift F6', does: '', run: () => goToPart(-1) },
    { keys: '?', does: 'this sheet', run: () => look({ help: !useView.getState().help }) },
  ],
  Watch: [
    { keys: 'v', does: 'slower', run: () => changeRate(1) },
    { keys: 'V', does: 'faster', run: () => changeRate(-1) },
    { keys: 'r', does: 'loop, once, or back and forth', run: nextLook },
    { keys: 'b', does: 'another background', run: nextGround },
    { keys: 'p', does: 'the loop as pixels', run: switchPixels },
    { keys: 'f', does: 'the chosen layer stays in the middle', run: switchFollowing },
  ],
  Draw: [
    { keys: 'a', does: 'add a layer: a list opens', run: () => stage.addMenu() },
    { keys: 'o', does: 'draw an outline', run: draw('pen') },
    { keys: 'O', does: 'draw a line', run: draw('line') },
  ],
  'What is chosen': [
    { keys: 't', does: 'duplicate', run: actions.duplicate },
    {
      keys: 'Ctrl a',
      does: 'choose all layers of the piece, or of the group that was entered',
      run: actions.chooseAll,
    },
    { keys: 'c', does: 'copy its look: paint, line, corners, shadow, filters, letters', run: actions.copyLook },
    { keys: 'C', does: 'paste the look onto what is chosen', run: actions.pasteLook },
    { keys: 'g', does: 'group', run: actions.group },
    { keys: 'G', does: 'ungroup', run: actions.ungroup },
    { keys: 'h', does: 'hide or show, in this state', run: actions.hide },
    { keys: 'k', does: 'lock or unlock', run: actions.lock },
    { keys: 'Alt ArrowUp', does: 'raise: in front of the next layer', run: () => actions.order(1) },
    { keys: 'Alt ArrowDown', does: 'lower: behind the next layer', run: () => actions.order(-1) },
    { keys: 'Alt ArrowRight', does: 'into the group next to it', run: () => actions.changeGroup('in') },
    { keys: 'Alt ArrowLeft', does: 'out of its group', run: () => actions.changeGroup('out') },
    { keys: 'Alt PageUp', does: 'to the very front', run: () => actions.order(Infinity) },
    { keys: 'Alt PageDown', does: 'to the very back', run: () => actions.order(-Infinity) },
    { keys: 'Delete', does: 'delete', run: actions.remove },
    { keys: 'ArrowLeft', does: 'move by 1 px, in all four directions; with Shift by 10', run: moveBy(-1, 0) },
    { keys: 'ArrowRight', does: '', run: moveBy(1, 0) },
    { keys: 'ArrowUp', does: '', run: moveBy(0, -1) },
    { keys: 'ArrowDown', does: '', run: moveBy(0, 1) },
  ],
  States: [
    { keys: '[', does: 'the state before', run: () => actions.goToState(-1) },
    { keys: ']', does: 'the state after', run: () => actions.goToState(1) },
    { keys: 's', does: 'a new state after this one (before, when building backwards)', run: actions.addState },
    { keys: 'S', does: 'a new state before this one', run: actions.addStateBefore },
    { keys: 'x', does: 'edit this state, or the base of all', run: actions.switchScope },
  ],
  'Size on the screen': [
    { keys: 'w', does: 'the whole piece', run: () => stage.toFit() },
    { keys: 'e', does: 'actual size', run: () => stage.toSize() },
    { keys: 'n', does: 'zoom to what is chosen', run: () => stage.toChosen() },
    { keys: '+', does: 'larger', run: () => stage.by(1.25) },
    { keys: '-', does: 'smaller', run: () => stage.by(0.8) },
  ],
};

/** What belongs to a place rather than to a key alone. */
export const GESTURES: [string, string][] = [
  ['Arrow keys on the pose', 'move by 1 px; with Shift by 10, with Ctrl and Shift by 100, with Alt by 0.1'],
  ['Shift while dragging', 'along one axis; rotation in steps of 15°; proportions kept'],
  ['Alt while dragging', 'a layer: a copy of it; a side: from the middle'],
  ['Ctrl while dragging', 'without snapping'],
  ['Shift and click, or a frame drawn', 'several layers at once'],
  ['Double-click, or Enter', 'one layer deeper; a path: its points; a text: its words'],
  ['Alt and click', 'what lies beneath'],
  ['Double-click on the line of a gradient', 'a stop more'],
  ['Wheel; with Ctrl; middle button', 'move the sheet; larger or smaller; move the sheet'],
  ['Dragging the playing loop; double-click', 'move it; fit it again'],
  ['Arrow keys in a number', 'up and down by 1; Shift by 10, Ctrl and Shift by 100, Alt by 0.1'],
  ['Enter, Tab in the score', 'the cell below, the cell to the right'],
  ['Shift and click in the score', 'a block of cells, to copy, paste, fill, spread or mirror'],
  ['Shift on the ruler of the run sheet', 'plays only the part that is drawn'],
  ['Dragging a transition there; its end', 'later, by its hold; longer, with all that moves in it'],
  ['F2, Alt ← →, Delete on a state', 'rename it, move it, delete it'],
  ['F2, Alt ↑ ↓ ← →, Delete in the layers', 'rename, move, out of a group or into one, delete'],
  ['Ctrl C, Ctrl V', 'layers, here or into another piece; a drawing or a picture'],
  ['Dragging rows of layers', 'another place, into a group or out of it'],
];

const NAMES: Record<string, string> = { ArrowUp: '↑', ArrowDown: '↓', ' ': 'Space' };

/** For reading: capital letters are small ones with Shift. */
export function keyText(keys: string): string {
  const parts = keys.split(' ');
  const key = known(parts.pop());
  const shifted = /^[A-Z]$/.test(key) ? ['Shift'] : [];
  return [...parts, ...shifted, NAMES[key] ?? (key.length === 1 ? key.toUpperCase() : key)].join(' ');
}

/** The shortcut of a key, among those of the groups that have an effect in the view that is shown. */
export const shortcutFor = (event: KeyboardEvent, groups: readonly string[]): Shortcut | undefined => {
  const key = event.key === ' ' ? 'Space' : event.key;
  const shifted = event.shiftKey && /^F\d/.test(key);
  const wanted = [event.ctrlKey || event.metaKey ? 'Ctrl' : '', event.altKey ? 'Alt' : '', shifted ? 'Shift' : '', key]
    .filter(Boolean)
    .join(' ');
  return groups.flatMap((group) => SHORTCUTS[group] ?? []).find(({ keys }) => keys === wanted);
};
