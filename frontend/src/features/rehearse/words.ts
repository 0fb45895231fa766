/* What happened, in words. Pure. */
import type { KeptRehearsal, Piece } from '../../api/contract';
import type { Heard, Tables } from '../../runtime/data';
import type { Taken } from '../../runtime/stage';
import { awaited, cueLabel, labelOf } from '../workbench';

const stateNamed = ({ states }: Tables, id: string) => states.find((state) => state.id === id)?.name ?? id;

/** The tables of a free placement, or of the piece itself. */
export function tablesOf(tables: Tables, copy: string | null): Tables {
  const within = tables.voices.find((voice) => copy === voice.copy || copy?.startsWith(`${voice.copy}/`));
  return within ? (within.copy === copy ? within.tables : tablesOf(within.tables, copy)) : tables;
}

const ms = (time: number) => `${Math.round(time)} ms`;
const hasLayer = (piece: Piece, layer: string | null | undefined): layer is string =>
  !!layer && labelOf(piece, layer) !== '';
/** Where something was done. */
export const whereOf = (piece: Piece, layer: string | null | undefined) =>
  hasLayer(piece, layer)
    ? labelOf(piece, layer)
    : (layer && piece.sections?.find(({ id }) => id === layer)?.name) || layer || piece.name;

/** Why nothing heeded it. */
export function whyNot(piece: Piece, all: Tables, { event, state, reason, rest_ms, copy }: Heard): string {
  const tables = tablesOf(all, copy);
  const name = stateNamed(tables, state);
  const transitions = tables.transitions.filter((t) => t.from === state && t.cue === event.cue);
  switch (reason) {
    case 'elsewhere': {
      const layers = transitions.map((t) => whereOf(piece, t.layer)).join(' or ');
      return `${name} waits for it on ${layers}`;
    }
    case 'other-key':
      return `${name} waits for ${transitions.map((t) => awaited('key', t.key)).join(' or ')}`;
    case 'resting':
      return `${name} rests ${ms(rest_ms)} longer first`;
    case 'unseen':
      return 'it is not seen now';
    case 'gone':
      return 'there is no such layer any more';
    case 'second-tap':
      return `waits ${tables.double_tap_ms} ms for a second tap`;
    default:
      return `nothing waits for it in ${name}`;
  }
}

/** What somebody did. */
export const didOf = ({ event }: Heard) => cueLabel(event.cue, event.key);

/** What began: from where to where, and how long until it is there. */
export function wayOf(
  tables: Tables,
  { transition, at_ms, reached_ms }: Taken,
): [from: string, to: string, takes: string] {
  const { from, to } = transition;
  return [stateNamed(tables, from), stateNamed(tables, to), ms(reached_ms - at_ms)];
}

/** How a kept rehearsal comes to something else than when it was kept; empty where it does not. */
export function changeOf({ changes, revision, fault }: KeptRehearsal): string {
  if (fault) return fault;
  const lines = changes.map(({ kind, what, by_ms }) => {
    switch (kind) {
      case 'later':
      case 'sooner':
        return `${what} is reached ${ms(by_ms)} ${kind}`;
      case 'not-reached':
        return `${what} is not reached any more`;
      case 'newly-reached':
        return `${what} is reached at ${ms(by_ms)}`;
      case 'state-gone':
        return `the state ${what} is gone`;
      case 'layer-gone':
        return `the layer ${what} is gone`;
    }
  });
  return lines.length ? `Since revision ${revision}: ${lines.join('; ')}.` : '';
}
