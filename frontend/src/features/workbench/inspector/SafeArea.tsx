import { Fold } from '../../../shared/ui/Fold';
import { NumberField } from '../../../shared/ui/Field';
import { attempt, make, useBench } from '../bench';
import { hasRoom, SIDES, setSafeArea, withoutSafeArea } from '../edits';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** What a device may lay over the edges of a screen: drawn on the pose, and layers line up with it. */
export function SafeArea() {
  const piece = useBench((b) => b.document);
  const area = piece.safe_area;
  return (
    <Fold title="Safe area" open={Boolean(area)}>
      <p className="quiet">How far in from each edge a device may cover the piece. A guide: nothing is cut off.</p>
      <div className="pairs">
        {SIDES.map((side) => (
          <NumberField
            key={side}
            label={side}
            name={`safe area, ${side}`}
            unit="px"
            value={area?.[side] ?? 0}
            commit={(v) => make(setSafeArea(piece, side, v))}
          />
        ))}
      </div>
      {area && !hasRoom(piece) && (
        <p className="quiet" role="status">
          Nothing of the piece is left free.
        </p>
      )}
      {area && <PlainButton onClick={() => void attempt(withoutSafeArea)}>Remove safe area</PlainButton>}
    </Fold>
  );
}
