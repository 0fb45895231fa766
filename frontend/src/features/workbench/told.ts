/* What has to be said to somebody: a fault, a decision to be made, what an edit did besides. */
import { ApiFault } from '../../api/client';
import type { Fault } from '../../api/contract';
import { CannotBe, type Intent } from './edits';

export interface Conflict {
  /** What was meant, to be made after theirs; nothing where it was an undo. */
  mine: { label: string; intent: Intent };
  theirs: string[];
}

export interface Told {
  conflict: Conflict | null;
  fault: Fault | null;
  /** What should be known of the last edit. */
  told: string | null;
}

export const NOTHING_TOLD: Told = { conflict: null, fault: null, told: null };

/** Whatever went wrong, as something that can be shown. */
export function faultOf(error: unknown): Fault {
  if (error instanceof ApiFault) return error.fault;
  if (error instanceof CannotBe) return { kind: 'Page', message: error.message, place: '', value: null, remedy: '' };
  return { kind: 'Page', message: String(error), place: '', value: null, remedy: 'Load the page again.' };
}
