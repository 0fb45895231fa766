import type { ReactNode } from 'react';
import { attempt, useBench } from '../bench';
import { backToBase, ownValues, type Cell } from '../edits';
import type { Property } from '../../../api/generated/catalogue';
import { stateNamed } from '../tree';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** What the state that is shown says of these layers itself, for one property. */
export function ownOf(ids: readonly string[], property: string): Cell[] {
  const { document: piece, state } = useBench.getState();
  return ownValues(piece, state, ids).filter((cell) => cell.property === property);
}

interface Props {
  ids: readonly string[];
  property: Property;
  wide: boolean;
  children: ReactNode;
}

/** A field, marked where the state says the value itself, with the way back to the base. */
export function OfState({ ids, property, wide, children }: Props) {
  const own = useBench(({ document, state }) =>
    ownValues(document, state, ids).some((cell) => cell.property === property.name),
  );
  const name = useBench(({ document, state }) => stateNamed(document, state).name);
  return (
    <div className={wide ? 'of-state wide' : 'of-state'}>
      {own && (
        <PlainButton
          className="own-mark"
          aria-label={`${property.label} back to the base`}
          title={`${name} has its own ${property.label}. A press takes it back to the base.`}
          onClick={() => void attempt(backToBase(useBench.getState().document, ownOf(ids, property.name)))}
        />
      )}
      {children}
    </div>
  );
}
