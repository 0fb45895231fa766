import { Flex } from 'antd';
import type { ReactNode } from 'react';
import { create } from 'zustand';
import type { Transition } from '../../../api/contract';
import { sameValue } from '../../../shared/text/values';
import { attempt, useBench } from '../bench';
import { chooseWays } from '../choosing';
import { chosenWays } from '../chosen';
import { setTransitions, type Timing } from '../edits';
import { known } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** A timing that was copied, to be put into other transitions. */
const useCopied = create<{ timing: Timing | null }>(() => ({ timing: null }));

const all = (fits: (way: Transition) => boolean): string[] =>
  (useBench.getState().document.transitions ?? []).filter(fits).map((way) => way.id);
const isTween = (way: Transition) => (way.style ?? 'tween') === 'tween';

/** More transitions like this one, to set them all at once; and its timing for others. */
export function WaysBy({ last, children }: { last: Transition; children?: ReactNode }) {
  const copied = useCopied((s) => s.timing);
  // The chosen one stays the last, whose values are shown.
  const choose = (ids: string[]) => chooseWays([...ids.filter((id) => id !== last.id), last.id]);
  const paste = () => {
    const bench = useBench.getState();
    void attempt(setTransitions(bench.document, chosenWays(bench), 'Pasted timing', () => ({ timing: known(copied) })));
  };
  return (
    <Flex wrap className="ways-by" role="group" aria-label="Like this one">
      <PlainButton onClick={() => choose(all(isTween))}>all tweens</PlainButton>
      <PlainButton
        title="All tweens along the same curve or spring"
        onClick={() => choose(all((way) => isTween(way) && sameCurve(way.timing, last.timing)))}
      >
        all with this curve
      </PlainButton>
      <PlainButton onClick={() => useCopied.setState({ timing: last.timing })}>copy timing</PlainButton>
      <PlainButton disabled={!copied} onClick={paste}>
        paste timing
      </PlainButton>
      {children}
    </Flex>
  );
}

/** Whatever they last. */
function sameCurve(a: Timing, b: Timing): boolean {
  if (a.kind === 'spring' || b.kind === 'spring') return sameValue(a as never, b as never);
  return (a.easing ?? 'ease-in-out') === (b.easing ?? 'ease-in-out');
}
