import { Dropdown } from 'antd';
import type { Transition } from '../../../api/contract';
import { attemptCommit, make, useBench } from '../bench';
import { setTransition } from '../edits';
import { lasting } from '../springs';
import { stateNamed } from '../tree';
import { known } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';

/** Gives a transition the length of another. A spring keeps its overshoot. */
export function AsLongAs({ transition }: { transition: Transition }) {
  const piece = useBench((b) => b.document);
  const readings = useBench((b) => b.readings);
  const name = (id: string) => stateNamed(piece, id).name;
  const others = (piece.transitions ?? []).filter(
    (t) => t.id !== transition.id && t.style !== 'cut' && readings[t.id]?.own_ms,
  );
  const take = async (own_ms: number) => {
    const timing = await lasting(transition.timing, own_ms, readings[transition.id]?.spring?.overshoot ?? 0);
    await make(setTransition(useBench.getState().document, transition.id, 'As long as another', { timing }));
  };
  const items = others.map((t) => ({
    key: t.id,
    label: `${name(t.from)} → ${name(t.to)} · ${known(readings[t.id]).own_ms} ms`,
    onClick: () => attemptCommit(take(known(readings[t.id]).own_ms)),
  }));
  return (
    <Dropdown trigger={['click']} disabled={!others.length} menu={{ items }}>
      <PlainButton disabled={!others.length}>as long as…</PlainButton>
    </Dropdown>
  );
}
