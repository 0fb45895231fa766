import { Checkbox } from 'antd';
import { Fold } from '../../../shared/ui/Fold';
import { NumberField } from '../../../shared/ui/Field';
import { attempt, make, useBench } from '../bench';
import { sectionsOf, setFixed } from '../edits';
import { placed } from '../tree';
import { firstOf } from '../../../shared/known';

/** Where fingers and pointers meet a layer. */
export function TouchOfLayers({ ids }: { ids: readonly string[] }) {
  const piece = useBench((b) => b.document);
  const layers = ids.map((id) => placed(piece, id).layer);
  const margins = layers.map((layer) => layer.touch_margin ?? 0);
  const throughs = layers.map((layer) => layer.lets_touches_through ?? false);
  const scrolls = sectionsOf(piece).length > 0 && ids.every((id) => piece.layers?.some((layer) => layer.id === id));
  const pins = layers.map((layer) => layer.pinned ?? false);
  const isMixed = (values: readonly unknown[]) => new Set(values).size > 1;
  return (
    <Fold title={scrolls ? 'Touch and scrolling' : 'Touch'}>
      <div className="pairs">
        <NumberField
          wide
          label="touch margin"
          name="touch margin"
          unit="px"
          value={firstOf(margins)}
          mixed={isMixed(margins)}
          commit={(v) => make(setFixed(piece, ids, 'touch_margin', v))}
        />
        <Checkbox
          className="wide"
          checked={throughs.every(Boolean)}
          indeterminate={isMixed(throughs)}
          onChange={(event) => void attempt(setFixed(piece, ids, 'lets_touches_through', event.target.checked))}
        >
          touches go through to what lies below
        </Checkbox>
        {scrolls && (
          <Checkbox
            className="wide"
            checked={pins.every(Boolean)}
            indeterminate={isMixed(pins)}
            onChange={(event) => void attempt(setFixed(piece, ids, 'pinned', event.target.checked))}
          >
            stays in its place while the rest scrolls
          </Checkbox>
        )}
      </div>
    </Fold>
  );
}

/** The times by which taps are told apart, in the whole piece. */
export function TouchOfPiece() {
  const piece = useBench((b) => b.document);
  const set = (label: string, name: string, value: number) =>
    make({ label, patch: [{ op: 'add', path: `/${name}`, value }] });
  return (
    <Fold title="Touch">
      <NumberField
        label="second tap within"
        name="second tap within"
        unit="ms"
        step={10}
        value={piece.double_tap_ms ?? 300}
        commit={(v) => set('Time for a second tap', 'double_tap_ms', v)}
      />
      <NumberField
        label="long press after"
        name="long press after"
        unit="ms"
        step={10}
        value={piece.long_press_ms ?? 500}
        commit={(v) => set('Time of a long press', 'long_press_ms', v)}
      />
    </Fold>
  );
}
