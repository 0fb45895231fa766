/* What a transition moves, made to go round on its own. */
import type { Transition } from '../../api/contract';
import { known } from '../../shared/known';
import { tried } from './actions';
import { useBench } from './bench';
import { choose } from './choosing';
import * as edits from './edits';
import { stateNamed } from './tree';

/** There and back, in all states. */
export async function goRound(way: Transition): Promise<void> {
  const { readings, poses } = useBench.getState();
  const easing = way.timing.kind === 'spring' ? 'ease-in-out' : (way.timing.easing ?? 'ease-in-out');
  await tried(
    (piece) => {
      const [from, to] = [stateNamed(piece, way.from).name, stateNamed(piece, way.to).name];
      return edits.undercurrentFrom(piece, known(readings[way.id]), poses, {
        ...way,
        name: `${from} and ${to}`,
        easing,
      });
    },
    ({ id }) => choose({ undercurrent: id }),
  );
}
