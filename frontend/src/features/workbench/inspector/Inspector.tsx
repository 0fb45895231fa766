import { Flex } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import { useBench } from '../bench';
import { chosenLayers, chosenWays } from '../chosen';
import { undercurrentOf } from '../edits';
import './inspector.css';
import { LayerInspector } from './LayerInspector';
import { ManyTransitions } from './ManyTransitions';
import { PieceInspector } from './PieceInspector';
import { TransitionInspector } from './TransitionInspector';
import { UndercurrentInspector } from './UndercurrentInspector';

/** Whatever was chosen last: a transition, a layer, or else the piece itself. */
export function Inspector() {
  const transition = useBench((b) => b.document.transitions?.find((t) => t.id === b.transition));
  const undercurrent = useBench((b) => undercurrentOf(b.document, b.undercurrent));
  const ways = useBench(useShallow(chosenWays));
  const layers = useBench(useShallow(chosenLayers));
  return (
    <Flex vertical gap={9} component="aside" className="inspector" aria-label="Inspector">
      {undercurrent ? (
        <UndercurrentInspector key={undercurrent.id} own={undercurrent} />
      ) : ways.length > 1 ? (
        <ManyTransitions ids={ways} />
      ) : transition ? (
        <TransitionInspector key={transition.id} transition={transition} />
      ) : layers.length ? (
        <LayerInspector key={layers.join()} ids={layers} />
      ) : (
        <PieceInspector />
      )}
    </Flex>
  );
}
