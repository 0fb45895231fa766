import { useBench } from '../bench';
import './inspector.css';
import { LayerInspector } from './LayerInspector';
import { PieceInspector } from './PieceInspector';
import { TransitionInspector } from './TransitionInspector';

/** Whatever was chosen last: a transition, a layer, or else the piece itself. */
export function Inspector() {
  const transition = useBench((b) => b.document!.transitions?.find((t) => t.id === b.transition));
  const layer = useBench((b) => b.layer);
  return (
    <aside className="inspector" aria-label="Inspector">
      {transition ? <TransitionInspector key={transition.id} transition={transition} /> : layer ? <LayerInspector key={layer} id={layer} /> : <PieceInspector />}
    </aside>
  );
}
