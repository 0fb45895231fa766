/* What the chosen layers have in common, and where they differ. */
import type { Look, Piece, Pose, Value } from '../../api/contract';
import { sameValue } from '../../shared/text/values';
import type { Property } from '../../api/generated/catalogue';
import { placed, propertiesOf } from './tree';
import { known, lastOf } from '../../shared/known';

export interface Common {
  property: Property;
  /** Of the layer chosen last. */
  value: Value;
  /** Of each of them. */
  values: readonly Value[];
  /** Not all have this one. */
  mixed: boolean;
}

/** Every property that all of these layers have. */
export function commonOf(piece: Piece, pose: Pose, ids: readonly string[]): Common[] {
  const layers = ids.map((id) => placed(piece, id).layer);
  const looks = ids.map((id) => pose[id]).filter((look): look is Look => look !== undefined);
  if (looks.length < ids.length || !looks.length) return [];
  const last = lastOf(looks);
  return (
    propertiesOf(lastOf(layers))
      .filter((property) => layers.every((layer) => property.kinds.includes(layer.kind)))
      // Poses come before the document: a copy that has just become a group has no state any more.
      .filter((property) => looks.every((look) => look[property.name] !== undefined))
      .map((property) => {
        const value = known(last[property.name]);
        const values = looks.map((look) => known(look[property.name]));
        return { property, value, values, mixed: values.some((each) => !sameValue(each, value)) };
      })
  );
}
