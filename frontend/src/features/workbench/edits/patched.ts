import { applyPatch, type Operation as PatchOperation } from 'fast-json-patch';
import { produce, setAutoFreeze } from 'immer';
import type { Operation } from '../../../api/contract';

// Freezing walks all that is new at every edit; the types forbid changes already.
setAutoFreeze(false);

/** The document with a patch done to it. What the patch does not touch stays the same object, so that it need not be
 * compared or drawn again. */
export const patched = <T>(document: T, patch: readonly Operation[]): T =>
  produce(document, (draft) => void applyPatch(draft, structuredClone(patch) as PatchOperation[], false, true));
